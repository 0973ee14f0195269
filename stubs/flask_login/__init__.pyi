from collections.abc import Callable

from flask import Flask

class UserMixin:
    @property
    def is_authenticated(self) -> bool: ...
    def get_id(self) -> str: ...

class _CurrentUser(UserMixin):
    id: int

current_user: _CurrentUser

class LoginManager:
    session_protection: str | None
    def __init__(self, app: Flask | None = ...) -> None: ...
    def user_loader(self, callback: Callable[[str], UserMixin | None]) -> Callable[[str], UserMixin | None]: ...

def login_user(user: UserMixin, remember: bool = ...) -> bool: ...
def logout_user() -> bool: ...
