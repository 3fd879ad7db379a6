"""What is said of a plan's limits and figures: one entry for each family of codes.

Text alone: no Django, no pages. A limit's words are found by its structured code
(:mod:`mechanics.codes`), never by looking into the code's text.
"""
