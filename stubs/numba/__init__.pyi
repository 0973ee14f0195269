from collections.abc import Callable
from typing import TypeVar

_Function = TypeVar("_Function", bound=Callable[..., object])

def njit(*, cache: bool, nogil: bool, _nrt: bool) -> Callable[[_Function], _Function]: ...
