"""What the shop hands to others: certificates, result files, labels, working sheets, each filled from the records."""
