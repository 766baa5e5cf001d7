"""What is printed: plain contents in ``contents``, filled by the shop, and one module that draws each paper."""
