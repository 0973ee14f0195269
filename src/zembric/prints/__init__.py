"""Paper: labels, tray sheets and the test print, as PDF with true millimetres. Plain data in, bytes out; no database."""
