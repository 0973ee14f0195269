"""Testers on the wire: what a program does with a cell, when it stops, and a tester of numbers to try it on."""
