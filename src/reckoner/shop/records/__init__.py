"""What the Records place reads and writes. Each list is read a page at a time, newest first.

``results``             the signed runs
``trail``               who did what, when
``checking``            the chain, the seals, and what follows from the records
``losses``              what putting a backup back would lose
``storage``             how much room everything takes
``documents``           what is made of a run, a card, a review: paper and files
``exporting``           register, histories, loans and cards handed on, as one file or as tables
``importing``           what a file is that was handed on; tables taken over
``importing_exchange``  an exchange file taken over
"""
