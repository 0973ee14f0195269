"""The demo: a made-up repair cafe in a made-up town."""
