"""What each family of steps does to the blank; its documents are the file of the same name in documents/steps."""
