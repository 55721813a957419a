"""What stands on the maker's shelves: pens, moulds, resins, pigments, materials, glues, machines, boards."""
