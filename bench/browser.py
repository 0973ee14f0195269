"""Somebody at a browser, for benches: keeps the cookie, sends the token with every write."""

from __future__ import annotations

import http.client
import json
from typing import Any, Self


class Browser:
    def __init__(self, port: int) -> None:
        self._connection = http.client.HTTPConnection("127.0.0.1", port, timeout=300)
        self.cookie = self.token = ""
        self.token = json.loads(self.ask("GET", "/api/session")[1])["csrf_token"]

    def sign_in(self, name: str, password: str) -> Self:
        said = self.ask("POST", "/api/session", {"name": name, "password": password})[1]
        self.token = json.loads(said)["csrf_token"]
        return self

    def ask(self, method: str, path: str, body: Any = None) -> tuple[int, bytes]:
        headers = {"Cookie": self.cookie, "Accept-Encoding": "gzip" if self.cookie and method == "GET" else "identity"}
        if body is not None:
            headers |= {"X-CSRFToken": self.token, "Content-Type": "application/json"}
        # Between two questions the server may have closed the line.
        self._connection.close()
        self._connection.request(method, path, json.dumps(body) if body is not None else None, headers)
        answer = self._connection.getresponse()
        self.cookie = (answer.getheader("Set-Cookie") or self.cookie).split(";")[0]
        return answer.status, answer.read()
