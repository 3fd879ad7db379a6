"""A small model of linear and whole-number constraints, handed to a general solver (HiGHS)."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import Enum

import highspy
import numpy as np

from mechanics.errors import MechanicsError
from mechanics.patience import go_on

FEASIBILITY = 1e-9
"""How far the solver may leave a constraint unmet, in the model's own units."""

PROOF = 1e-5
"""How much better than the answer an unseen solution may be: a thousandth of a percent where
the objective is a part of a limit."""

Terms = Mapping[int, float]


class Allowance:
    """Seconds of searching that are left, as the solver itself counts them."""

    def __init__(self, seconds: float) -> None:
        self.whole = self.left = seconds

    def first(self, seconds: float) -> Allowance:
        """What is left of its first seconds; it is not the less for what that spends."""
        return Allowance(max(0.0, seconds - (self.whole - self.left)))


class Outcome(Enum):
    """How a search ended. ``UNPROVED`` is a search that ran out of time."""

    BEST = "best"
    NONE = "none"
    UNPROVED = "unproved"


@dataclass(frozen=True, slots=True)
class Solved:
    """How a search ended, with the best solution it found, empty where it found none. No solution
    is smaller than ``bound``."""

    outcome: Outcome
    values: list[float]
    bound: float


class SolverError(MechanicsError):
    """The solver gave up for a reason that is neither "best found" nor "there is none"."""


class Model:
    """Columns, rows and one objective to be made as small as possible."""

    def __init__(self) -> None:
        self._lower: list[float] = []
        self._upper: list[float] = []
        self._whole: list[bool] = []
        self._rows: list[tuple[dict[int, float], float, float]] = []

    def column(self, lower: float, upper: float) -> int:
        """A number between two bounds; its place in a solution."""
        self._lower.append(lower)
        self._upper.append(upper)
        self._whole.append(False)
        return len(self._lower) - 1

    def choice(self) -> int:
        """A column that is zero or one."""
        place = self.column(0.0, 1.0)
        self._whole[place] = True
        return place

    def row(self, terms: Terms, *, least: float = -np.inf, most: float = np.inf) -> None:
        """A sum of columns that has to lie between two bounds."""
        self._rows.append((dict(terms), least, most))

    def copy(self) -> Model:
        """The same model, to be added to without touching this one."""
        other = Model()
        other._lower, other._upper = list(self._lower), list(self._upper)
        other._whole, other._rows = list(self._whole), list(self._rows)
        return other

    def smallest(
        self,
        objective: Terms,
        *,
        seconds: float,
        start: Sequence[float] | None = None,
        within: float = PROOF,
        spend: Allowance | None = None,
    ) -> tuple[Outcome, list[float]]:
        """The solution that makes the objective smallest (:meth:`search`); what it takes is taken
        off ``spend``.

        Raises:
            SolverError: the solver failed.
        """
        found = self.search(objective, seconds=seconds, start=start, within=within, spend=spend)
        return found.outcome, found.values

    def search(
        self,
        objective: Terms,
        *,
        seconds: float,
        start: Sequence[float] | None = None,
        within: float = PROOF,
        spend: Allowance | None = None,
    ) -> Solved:
        """The solution that makes the objective smallest, and how small any can be.

        An answer ``within`` so much of the smallest is good enough. ``start`` gives the first
        columns of a solution to begin the search from; what it takes is taken off ``spend``. One
        thread and no randomness: the same model gives the same answer, unless time runs out.

        Raises:
            SolverError: the solver failed.
        """
        go_on()
        if not self._lower:
            # the solver knows no answer to a question without unknowns
            holds = all(least <= 0 <= most for _, least, most in self._rows)
            return Solved(Outcome.BEST, [], 0.0) if holds else Solved(Outcome.NONE, [], np.inf)
        solver = highspy.Highs()
        solver.setOptionValue("output_flag", False)
        solver.setOptionValue("log_to_console", False)
        solver.setOptionValue("threads", 1)
        solver.setOptionValue("random_seed", 0)
        solver.setOptionValue("time_limit", seconds)
        solver.setOptionValue("mip_rel_gap", 0.0)
        solver.setOptionValue("mip_abs_gap", within)
        solver.setOptionValue("primal_feasibility_tolerance", FEASIBILITY)
        solver.setOptionValue("mip_feasibility_tolerance", FEASIBILITY)
        solver.passModel(self._lp(objective))
        if start is not None:
            columns = np.arange(len(start), dtype=np.int32)
            solver.setSolution(len(start), columns, np.array(start, dtype=np.float64))
        solver.run()
        if spend is not None:
            spend.left -= solver.getRunTime()
        status = solver.getModelStatus()
        if status == highspy.HighsModelStatus.kOptimal:
            values = list(solver.getSolution().col_value)
            whole = any(self._whole)
            bound = solver.getInfo().mip_dual_bound if whole else solver.getObjectiveValue()
            return Solved(Outcome.BEST, values, bound)
        if status == highspy.HighsModelStatus.kInfeasible:
            return Solved(Outcome.NONE, [], np.inf)
        if status == highspy.HighsModelStatus.kTimeLimit:
            found = solver.getInfo().primal_solution_status == 2
            values = list(solver.getSolution().col_value) if found else []
            return Solved(Outcome.UNPROVED, values, solver.getInfo().mip_dual_bound)
        raise SolverError(f"the search ended as {solver.modelStatusToString(status)}")

    def best(
        self, objective: Terms, allowance: Allowance, *, within: float = PROOF
    ) -> tuple[Outcome, list[float]]:
        """The same within what is left of an allowance, which is the less for it.

        Raises:
            SolverError: the solver failed.
        """
        if allowance.left <= 0:
            return Outcome.UNPROVED, []
        return self.smallest(objective, seconds=allowance.left, within=within, spend=allowance)

    def _lp(self, objective: Terms) -> highspy.HighsLp:
        count = len(self._lower)
        lp = highspy.HighsLp()
        lp.num_col_, lp.num_row_ = count, len(self._rows)
        cost = np.zeros(count)
        for column, value in objective.items():
            cost[column] = value
        lp.col_cost_ = cost
        lp.col_lower_, lp.col_upper_ = np.array(self._lower), np.array(self._upper)
        lp.row_lower_ = np.array([row[1] for row in self._rows])
        lp.row_upper_ = np.array([row[2] for row in self._rows])
        starts: list[int] = [0]
        indices: list[int] = []
        values: list[float] = []
        for terms, _, _ in self._rows:
            indices += terms.keys()
            values += terms.values()
            starts.append(len(indices))
        lp.a_matrix_.format_ = highspy.MatrixFormat.kRowwise
        lp.a_matrix_.start_ = np.array(starts, dtype=np.int32)
        lp.a_matrix_.index_ = np.array(indices, dtype=np.int32)
        lp.a_matrix_.value_ = np.array(values, dtype=np.float64)
        lp.integrality_ = [
            highspy.HighsVarType.kInteger if whole else highspy.HighsVarType.kContinuous
            for whole in self._whole
        ]
        return lp
