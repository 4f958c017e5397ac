"""The real window under real mouse and key events, every entry counted: see ``docs/howto/drive.md``."""
