"""Pictures that stations and the bench share."""
