"""Orvek in other languages: texts are taken out of the sources, and another program is made of them with others.

Whoever writes a sentence for the screen need not think of this: a text is an English string or f-string, as it is read.
"""
