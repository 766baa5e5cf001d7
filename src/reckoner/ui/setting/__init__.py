"""The Setting place: what is known of a tool, used at the joint.

``place``       its shelves
``sheet``       set for a wanted torque: what is asked at the left, the picture and its sentence at the right
``asked``       what stands in the fields, as the arithmetic takes it
``picture``     the sentence, the lever drawing, the derivation; the angle's chart, and the habits side by side
``correcting``  a held tool used with correction
``cards``       the job cards; ``cardform`` one as it is made, ``cardfiles`` as files and on paper
``work``        a job being worked through; ``stored`` values taken into it
"""

from reckoner.ui.setting.place import SettingPlace

__all__ = ["SettingPlace"]
