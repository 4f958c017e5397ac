"""What the window does, without a window: session and builds, what is chosen, every command, words and tables.

Nothing here imports a toolkit. ``desk`` shows it; tests drive it with a fake kernel and fake prompts.
"""
