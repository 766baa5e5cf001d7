"""The steps in which readings are taken: pulls on a meter or a scale, answers under weights, readings typed or stored, struck
and asked about.
"""
