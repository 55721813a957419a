"""The station Glue-up."""
