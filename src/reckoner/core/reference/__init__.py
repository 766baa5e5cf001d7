"""What a torque is known by: a meter's certificate, weights on a lever about the tool's pin, a force gauge, where a tool
trips under weights, and what to hang for a wanted torque. To add a kind of reference: its arithmetic here.
"""
