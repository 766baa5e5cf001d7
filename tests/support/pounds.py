"""A shop in pounds and inches, without a meter: two weights and a click wrench that nobody weighed."""

POUNDS = """
people = [{ initials = "J. D.", name = "J. Dell" }]
[[models]]
maker = "Ottermoor"
name = "OT-150"
type = "II"
class = "A"
mechanism = "click"
minimum = "20 lbf.ft"
maximum = "150 lbf.ft"
resolution = "1 lbf.ft"
unit = "lbf.ft"
lever_length = "18 in"
[[tools]]
number = "T-1"
model = "Ottermoor OT-150"
[[weights]]
number = "P-25"
stamped = "25 lb"
[[weights]]
number = "P-10"
stamped = "10 lb"
"""
LB, IN, LBF_FT = 0.45359237, 0.0254, 1.3558179483314003
