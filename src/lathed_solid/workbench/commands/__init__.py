"""Every command, by what it acts on; composed, not inherited."""

from __future__ import annotations

from dataclasses import dataclass

from lathed_solid.workbench.bench import Workbench
from lathed_solid.workbench.commands.files import FileCommands
from lathed_solid.workbench.commands.fit import FitCommands
from lathed_solid.workbench.commands.hand_over import HandOverCommands
from lathed_solid.workbench.commands.learning import LearningCommands
from lathed_solid.workbench.commands.ledger import LedgerCommands
from lathed_solid.workbench.commands.prove import ProveCommands
from lathed_solid.workbench.commands.route import RouteCommands
from lathed_solid.workbench.commands.view import ViewCommands
from lathed_solid.workbench.fit.bench import FitBench
from lathed_solid.workbench.hand_over.maker import Maker
from lathed_solid.workbench.prompts import Background, Prompts, View


@dataclass(frozen=True)
class Commands:
    """What an action of the table gets."""

    bench: Workbench
    files: FileCommands
    route: RouteCommands
    ledger: LedgerCommands
    prove: ProveCommands
    view: ViewCommands
    fit: FitCommands
    hand_over: HandOverCommands
    learning: LearningCommands

    @classmethod
    def of(
        cls, bench: Workbench, ask: Prompts, view: View, background: Background, fit: FitBench, maker: Maker
    ) -> Commands:
        """All commands of a workbench."""
        files = FileCommands(bench, ask, view, background)
        return cls(
            bench,
            files,
            RouteCommands(bench, ask, view),
            LedgerCommands(bench, ask, view),
            ProveCommands(bench, view),
            ViewCommands(bench, view, fit.session),
            FitCommands(bench, ask, view, background, fit),
            HandOverCommands(bench, ask, maker),
            LearningCommands(bench, ask, view, background, files),
        )
