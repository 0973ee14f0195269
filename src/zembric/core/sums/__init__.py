"""The bench sums: small calculations that people do on paper. Page, API and command are made from one registry.

registry   what a sum is, how its inputs are checked
electric   loads, wires, strips, modules
measuring  resistances, capacities, testers, limits
charging   duration of a charge, joining two cells, loss on the shelf, run time
"""
