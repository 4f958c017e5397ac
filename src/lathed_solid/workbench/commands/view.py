"""What can be done with the view: looks, switches, palette."""

from __future__ import annotations

from lathed_solid.files.user_settings import LANGUAGES
from lathed_solid.kernel.vectors import Triple
from lathed_solid.workbench.bench import Workbench
from lathed_solid.workbench.fit.session import FitSession
from lathed_solid.workbench.prompts import Panel, Place, Switch, View

#: sizes of the interface, percent
SCALES = (100, 125, 150, 175, 200)


class ViewCommands:
    """The view of one workbench."""

    def __init__(self, bench: Workbench, view: View, fits: FitSession) -> None:
        self.bench, self.session, self.view, self.fits = bench, bench.session, view, fits

    def fit(self) -> None:
        """Fit the solid."""
        self.view.fit()

    def look(self, name: str) -> None:
        """Turn to a view of the net."""
        self.view.look(name)

    def look_as_drawn(self) -> None:
        """The sheet's own view: that of a pictorial sheet, else the front."""
        eye = self.view.drawn_from()
        if eye is None:
            self.view.look("front")
            self.bench.tell("the sheet has flat views: this is the front, 1 to 6 turn to the others")
        else:
            self.view.look_from(eye)

    def toggle(self, switch: Switch) -> None:
        """Turn a switch over."""
        self.view.toggle(switch)

    def is_on(self, switch: Switch) -> bool:
        """Whether a switch is on."""
        return self.view.is_on(switch)

    def section(self) -> tuple[float, str] | None:
        """Where the solid is cut open: place and axis."""
        return self.view.section()

    def eye(self) -> Triple | None:
        """Where the eye is: from the solid towards it; None while there is no view."""
        return self.view.eye()

    def focus(self, place: Place) -> None:
        """Give it the keyboard."""
        self.view.focus(place)

    def show_panel(self, panel: Panel) -> None:
        """Open what stands beside the window."""
        self.view.show_panel(panel)

    def toggle_projection(self) -> None:
        """First- or third-angle view net."""
        self._set(projection="third" if self.session.settings.projection == "first" else "first")

    def toggle_dark(self) -> None:
        """Dark or light."""
        self._set(dark=not self.session.settings.dark)

    def speak(self, language: str) -> None:
        """The interface's language, from the next start; the desktop's again where it is chosen already."""
        now = "" if self.session.settings.language == language else language
        self._set(language=now)
        self.bench.tell(f"the interface speaks {LANGUAGES.get(now, 'the desktop’s language')} from the next start")

    def resize_everything(self, way: int) -> None:
        """The next larger (1) or smaller (-1) size of the interface, from the next start."""
        now = self.session.settings.scale
        nearest = min(range(len(SCALES)), key=lambda k: abs(SCALES[k] - now))
        scale = SCALES[max(0, min(len(SCALES) - 1, nearest + way))]
        self.session.set_settings(self.session.settings.model_copy(update={"scale": scale}))
        self.bench.tell(f"{scale} % from the next start" if scale != now else f"{scale} % is as far as it goes")

    def toggle_tips(self) -> None:
        """Tips, or none; switched on again, all of them anew."""
        on = not self.session.settings.tips
        seen = () if on else self.session.settings.tips_seen
        self.session.set_settings(self.session.settings.model_copy(update={"tips": on, "tips_seen": seen}))
        self.bench.tell("tips are shown where they help" if on else "no more tips")

    def _set(self, **values: object) -> None:
        settings = self.session.settings.model_copy(update=values)
        self.session.set_settings(settings)
        self.view.restyle(dark=settings.dark, projection=settings.projection)

    def cancel(self) -> None:
        """Stop what runs: the part's work, and the fit's."""
        self.session.builds.cancel()
        self.fits.queue.cancel()

    def close(self) -> None:
        """End the window."""
        self.view.close()
