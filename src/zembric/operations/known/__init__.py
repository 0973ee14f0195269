"""What is known beforehand and asked by everybody: the catalogue, the instruments, the rules in force."""
