"""The simulated tester as a child of the demo: `python -m zembric.cli.standin --port 5025`."""

from __future__ import annotations

from zembric.cli.children import end_with_whoever_started_this
from zembric.wire.standin import main

if __name__ == "__main__":
    end_with_whoever_started_this()
    main()
