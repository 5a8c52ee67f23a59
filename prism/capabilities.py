"""Every capability, in the order their findings are listed. A new one is a folder and a line here."""

from __future__ import annotations

from prism.balance.capability import CAPABILITY as BALANCE
from prism.brands.capability import CAPABILITY as BRANDS
from prism.contrast.capability import CAPABILITY as CONTRAST
from prism.coverage.capability import CAPABILITY as COVERAGE
from prism.elevation.capability import CAPABILITY as ELEVATION
from prism.exchange.capability import CAPABILITY as EXCHANGE
from prism.hygiene.capability import CAPABILITY as HYGIENE
from prism.measures.capability import CAPABILITY as MEASURES
from prism.modes.capability import CAPABILITY as MODES
from prism.naming.capability import CAPABILITY as NAMING
from prism.palette.capability import CAPABILITY as PALETTE
from prism.scenes.capability import CAPABILITY as SCENES
from prism.sheet.capability import CAPABILITY as SHEET
from prism.vision.capability import CAPABILITY as VISION

CAPABILITIES = (
    CONTRAST,
    BALANCE,
    ELEVATION,
    VISION,
    COVERAGE,
    HYGIENE,
    NAMING,
    PALETTE,
    MEASURES,
    SHEET,
    BRANDS,
    MODES,
    SCENES,
    EXCHANGE,
)
