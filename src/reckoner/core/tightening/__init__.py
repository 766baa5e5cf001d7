"""A tool used at the joint: what to set, through which adapter, in which order, and which tool suits."""
