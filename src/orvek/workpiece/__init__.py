"""The blank as a field of materials: steps become a program, the program answers for any point.

Import from the modules: `compiling`, `field`, `pictures`, `measures`. Nothing is handed on here, because most of them
load NumPy, which the first window does not wait for.
"""
