"""What every shape of the core is: a frozen value."""

from pydantic import BaseModel, ConfigDict

#: Characters of any text nobody bounds otherwise: some pages of words.
MOST_TEXT = 20_000


class Frozen(BaseModel):
    """A value: compared by content, never changed in place, strict about unknown fields, and bounded: a text that a field
    does not bound itself holds :data:`MOST_TEXT` characters."""

    model_config = ConfigDict(frozen=True, extra="forbid", str_max_length=MOST_TEXT)
