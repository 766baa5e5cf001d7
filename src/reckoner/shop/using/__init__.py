"""Using what is known of the tools: at the joint, and at the desk that lends them.

``known``      what a tool's last results say of its settings
``fitting``    the shop's adapters, and what a person types for one
``setting``    set for a wanted torque, and the habits beside it
``choosing``   which tool for a torque, and why each other one was passed over
``lending``    lent and taken back
``desk``       what is out, and what a scan or a card brings to be lent; ``fitness`` why a tool may not be used
``trips``      sent to a laboratory, its certificate brought in
``reviewing``  what a bad tool may have spoiled; ``reviews`` as they are read
``costs``      send, test here, or replace
``cards``      job cards that are kept
``working``    working through one; ``works`` as they are read

Nothing here knows a file format or a widget. To add a use: a module here, and its shelf in ``ui.setting`` or ``ui.desk``.
"""
