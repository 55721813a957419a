"""The station Today."""
