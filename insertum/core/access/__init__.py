"""The way in: what has to come off to reach a slot, and how long that takes."""
