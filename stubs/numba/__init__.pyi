from collections.abc import Callable
from typing import Any, TypeVar

_Function = TypeVar("_Function", bound=Callable[..., object])

types: Any

def njit(*signature: Any, **options: bool | str) -> Callable[[_Function], Any]: ...
def typeof(value: object) -> Any: ...
