"""The script that gathers a reading bundle on a customer's machine; it runs there, not here."""

from pathlib import Path

SCRIPT = Path(__file__).with_name("gather.sh")
