from collections.abc import Callable
from typing import Any

def intrinsic(function: Callable[..., Any]) -> Any: ...
