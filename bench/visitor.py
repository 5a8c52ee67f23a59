"""A person at a running demo, over plain HTTP on loopback: looks at rooms and stores values."""

from __future__ import annotations

import http.client
import json
import re
import time
import uuid
from urllib.parse import urlencode


class Visitor:
    """One person with cookies of her own; every request has a deadline."""

    def __init__(self, port: int, timeout: float = 10) -> None:
        self.port, self.timeout = port, timeout
        self.cookies: dict[str, str] = {}
        self.code = ""
        self.revision = "0"

    def ask(
        self, path: str, body: dict[str, str] | None = None, write: str = ""
    ) -> tuple[int, dict[str, str], str]:
        """Status, headers and text of an answer; raises ``OSError`` where none came."""
        if body is None:
            return self.send(path)
        token = self.cookies.get("csrftoken", "")
        data = urlencode(body | {"csrfmiddlewaretoken": token}).encode()
        kind = "application/x-www-form-urlencoded"
        return self.send(path, data, kind, {"X-Region": "room", "X-Write": write})

    def send(
        self,
        path: str,
        data: bytes | None = None,
        kind: str = "",
        more: dict[str, str] | None = None,
    ) -> tuple[int, dict[str, str], str]:
        """As ``ask``, with a body of any kind."""
        headers = {"Cookie": "; ".join(f"{name}={text}" for name, text in self.cookies.items())}
        headers |= ({"Content-Type": kind} if kind else {}) | (more or {})
        line = http.client.HTTPConnection("127.0.0.1", self.port, timeout=self.timeout)
        try:
            line.request("POST" if data else "GET", path, data, headers)
            answer = line.getresponse()
            text = answer.read().decode(errors="replace")
            for cookie in answer.headers.get_all("Set-Cookie", []):
                name, _, rest = cookie.partition("=")
                self.cookies[name] = rest.partition(";")[0]
            return answer.status, dict(answer.headers.items()), text
        except http.client.HTTPException as error:
            raise OSError(str(error)) from None
        finally:
            line.close()

    def enter(self, project: str = "") -> None:
        """Find a project and the tokens that can be written."""
        if not project:
            _, _, text = self.ask("/projects/")
            project = re.findall(r"/p/([0-9a-f]+)/", text)[0]
        self.code = project
        self.look()

    def look(self, room: str = "tokens/") -> tuple[int, float]:
        """Open a room; its status and how many seconds it took."""
        started = time.monotonic()
        status, _, text = self.ask(f"/p/{self.code}/{room}")
        if found := re.search(r'data-revision="(\d+)"', text):
            self.revision = found[1]
        found = dict.fromkeys(re.findall(r'data-token="([^"]+)"', text))
        self.keys = list(found) or getattr(self, "keys", [])
        return status, time.monotonic() - started

    def store(self, token: str, value: str) -> tuple[str, int]:
        """Store a token's base value; the name of the write and the status."""
        write = str(uuid.uuid4())
        body = {"token": token, "condition": "[]", "value": value, "revision": self.revision}
        status, headers, _ = self.ask(f"/p/{self.code}/tokens/store", body, write)
        self.revision = headers.get("X-Stored", self.revision)
        stored = "X-Stored" in headers or "X-Address" in headers
        return write, status if stored or status >= 400 else 0

    def was_stored(self, write: str) -> bool:
        """Whether the server has kept a write."""
        _, _, text = self.ask(f"/projects/{self.code}/pulse?{urlencode({'write': write})}")
        return bool(json.loads(text)["stored"])
