"""What the Records place reads and writes. Each list is read a page at a time, newest first.

``results``  the signed runs    ``trail``    who did what, when
``losing``   what putting a backup back would lose    ``storage``  how much room everything takes
``documents``  what is made of a run, a card, a review: paper and files
``handing``  register, histories, loans and cards as one file; ``tables`` as tables
``handed``  what a file is that was handed on; ``taking_over`` brings such a file in, ``taking_tables`` such tables
"""
