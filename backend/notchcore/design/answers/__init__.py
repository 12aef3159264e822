"""Answers to one question at a time, without a project: the number, where it comes from, and a drawing."""
