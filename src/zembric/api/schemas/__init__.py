"""What goes over the wire. In models end in `In`, what the server answers ends in `Out`."""

from __future__ import annotations

from zembric.api.schemas.base import *
from zembric.api.schemas.bench import *
from zembric.api.schemas.catalogue import *
from zembric.api.schemas.cells import *
from zembric.api.schemas.donors import *
from zembric.api.schemas.entries import *
from zembric.api.schemas.evening import *
from zembric.api.schemas.handwork import *
from zembric.api.schemas.layouts import *
from zembric.api.schemas.logs import *
from zembric.api.schemas.matching import *
from zembric.api.schemas.measuring import *
from zembric.api.schemas.outside import *
from zembric.api.schemas.packs import *
from zembric.api.schemas.papers import *
from zembric.api.schemas.people import *
from zembric.api.schemas.places import *
from zembric.api.schemas.testers import *
