"""What the register looks like wherever it is read and changed: its rows' sheets, field by field.

``fieldrow``   one field, read and edited where it stands
``factsheet``  all fields of a row, in groups, with what is missing
``history``    who changed what when
``rowslist``   a list of rows to choose from
``shelf``      such a list beside the chosen row's sheet
``pictures``   the kinds of tools, drawn
``newmodel``   a model by its picture, its range and its drive
``newtools``   one tool or many of a kind
``newperson``  somebody who works here
"""
