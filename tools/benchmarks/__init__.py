"""What `make bench` measures: one module for each subject, each giving rows. To add one: name it in tools/bench.py."""
