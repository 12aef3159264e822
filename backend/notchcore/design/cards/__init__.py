"""Test pieces: small parts that are cut on their lines to find out what a stock and a machine do."""
