"""The station Shelf: what there is, and what each piece can still become."""
