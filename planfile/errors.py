"""What is wrong with a file, where, and what was expected."""


class PlanFileError(ValueError):
    """A file that is not a valid plan.

    Attributes:
        path: the offending field (``trailer.axles[0].position``), empty for the file whole.
        expected: the rest of the sentence "expected ...".
        got: what stood there, where that helps; else empty.
    """

    def __init__(self, path: str, expected: str, got: str = "") -> None:
        self.path = path
        self.expected = expected
        self.got = got
        super().__init__(path, expected, got)

    def __str__(self) -> str:
        where = self.path or "the file"
        got = f", got {self.got}" if self.got else ""
        return f"{where}: expected {self.expected}{got}"
