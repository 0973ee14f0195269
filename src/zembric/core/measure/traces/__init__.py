"""Testers' logs: reading them as they are, and working out what they measured.

text     bytes into clean lines, whatever the encoding
words    what headers call things, in several languages
table    delimiter, decimal mark and header of one file
columns  which column is what, and in what unit; guesses are told
marks    numbers, clocks and dates as testers write them
pasted   several exports in one file
rows     lines into numbers, fast where they are clean, line by line where they are not
timeline backward clocks mended, separate tests told apart
steps    charge, rest and discharge with charge and energy
edges    resistance from steps of current
analysis all of it together
thinning a trace with no more points than a screen can show
"""
