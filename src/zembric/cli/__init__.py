"""The command line: `./zembric VERB`."""
