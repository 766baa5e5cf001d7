"""The Setting place: what is known of a tool, used at the joint.

``place``   its shelves
``sheet``   set for a wanted torque: what is asked at the left, the picture and its sentence at the right
``asked``   what stands in the fields, as the arithmetic takes it
``picture`` the sentence, the lever drawing, the derivation
``ways``    the angle's chart, and the habits side by side
"""

from reckoner.ui.setting.place import SettingPlace

__all__ = ["SettingPlace"]
