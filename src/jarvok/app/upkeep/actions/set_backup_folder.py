"""Where copies of the centre are kept."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.centre.models import Centre
from jarvok.app.upkeep.backups import folder_that_works


def run(who: Who, typed: str) -> None:
    """Keep copies in a folder from now on; nothing typed is the one beside the data. Copies made before stay where they are."""
    path = folder_that_works(typed)
    with acting(who, "set_backup_folder", f"copies are kept in {path or 'the folder beside the data'}"):
        Centre.objects.update_or_create(pk=1, defaults={"backup_folder": path})
