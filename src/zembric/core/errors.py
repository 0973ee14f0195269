"""The one family of errors that a person can act on.

ZembricError
├── BadInputError        a value that cannot be right; may offer the value that was probably meant
├── OddInputError        a value that can be right but should be looked at once more
├── DangerError          something that must not be done, whoever asks
├── NotFoundError
├── ConflictError        somebody was faster, or the thing is not in a state for this
├── NotAllowedError      the role does not cover it
├── NotSignedInError
└── TooManyTriesError
"""

from __future__ import annotations

from zembric.core.said import Said, as_said, said


class ZembricError(Exception):
    """Base of every error a person can act on. What it says is turned into words where they read it.

    `field` names the input it belongs to, None where it concerns the whole request. `suggestion` is a text
    that could be typed instead, None where there is nothing to offer. `ways` are ways round it, each a code and its words.
    """

    code = "refused"
    ways: tuple[tuple[str, Said], ...] = ()

    def __init__(
        self, what: Said | str, *, code: str | None = None, field: str | None = None, suggestion: str | None = None
    ):
        super().__init__(what)
        self.said = as_said(what) if isinstance(what, str) else what
        self.code = code or type(self).code
        self.field = field
        self.suggestion = suggestion


class BadInputError(ZembricError):
    """The value cannot be right. Nothing was changed."""

    code = "bad-input"


class OddInputError(ZembricError):
    """The value is possible but unlikely; sent again as confirmed it is taken."""

    code = "odd-input"


class DangerError(ZembricError):
    """Blocked for safety; no confirmation lifts it."""

    code = "danger"


class NotFoundError(ZembricError):
    code = "not-found"


class ConflictError(ZembricError):
    code = "conflict"


class ChangedMeanwhileError(ConflictError):
    """Somebody changed the same thing after this person had read it."""

    code = "changed-meanwhile"

    def __init__(self, what: Said):
        super().__init__(said("changed-meanwhile", what=what))


class NotAllowedError(ZembricError):
    code = "not-allowed"


class NotSignedInError(ZembricError):
    code = "not-signed-in"


class TooManyTriesError(ZembricError):
    code = "too-many-tries"
