"""What several endpoints take."""

from pydantic import BaseModel, ConfigDict

from lattice.document.base import Name

__all__ = ["Body", "Naming"]


class Body(BaseModel):
    """Base of what is sent: nothing unknown."""

    model_config = ConfigDict(extra="forbid")


class Naming(Body):
    """A new name."""

    name: Name
