"""What the register looks like wherever it is read and changed: its rows' sheets, field by field.

``fieldrow``   one field, read and edited where it stands
``factsheet``  all fields of a row, in groups, with what is missing, and who changed what
``shelf``      a list of rows beside the chosen row's sheet; ``adders`` what adds one
``newmodel``   a model by its picture, its range and its drive
``newmeter``   a meter, weights or a scale; ``newtools`` one tool or many
``people``     somebody who works here; ``passphrase`` what one signs with
``linking``    how a reference is reached from this station
``files``      the files of a row
"""
