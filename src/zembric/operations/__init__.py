"""What people do: a session and an actor in, rows loaded, the core asked, the answer stored. Nothing here commits."""
