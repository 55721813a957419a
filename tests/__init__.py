"""Tests of Orvek; the folders mirror src/orvek."""
