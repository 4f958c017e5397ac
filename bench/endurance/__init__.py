"""Campaigns of endurance: kills, mutations, texts, full disks, long sessions, two windows; each from a seed.

Each module is a command (``python bench/endurance/kills.py 2000 71``); the tests run short ones.
"""
