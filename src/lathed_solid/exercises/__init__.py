"""Worked exercises: a drawing to build after, and what the finished part has to be.

An exercise begins as a part with nothing but its drawing and what the title block says; ``Document.exercise`` names it.
Marking (``marking``) says what is missing, what was entered otherwise, and whether the solid is the drawn one.
"""

from lathed_solid.exercises.marking import Mark, mark, words_of
from lathed_solid.exercises.tasks import EXERCISES, Exercise, Figures, begun, exercise

__all__ = ["EXERCISES", "Exercise", "Figures", "Mark", "begun", "exercise", "mark", "words_of"]
