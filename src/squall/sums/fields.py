"""Field types that all sums share: finite, bounded, and refusing what they don't know."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

Finite = Annotated[float, Field(allow_inf_nan=False)]
NotNegative = Annotated[float, Field(ge=0.0, allow_inf_nan=False)]
Positive = Annotated[float, Field(gt=0.0, allow_inf_nan=False)]
Share = Annotated[float, Field(gt=0.0, le=1.0, allow_inf_nan=False)]
Head = Annotated[float, Field(ge=0.0, le=2000.0, allow_inf_nan=False)]
WaterCelsius = Annotated[float, Field(ge=0.1, le=60.0, allow_inf_nan=False)]
CellCelsius = Annotated[float, Field(ge=-60.0, le=120.0, allow_inf_nan=False)]
Irradiance = Annotated[float, Field(ge=0.0, le=1500.0, allow_inf_nan=False)]
Count = Annotated[int, Field(ge=1, le=100)]
Volts = Annotated[float, Field(gt=0.0, le=1000.0, allow_inf_nan=False)]


class Strict(BaseModel):
    """A model that refuses unknown fields and wrong types."""

    model_config = ConfigDict(extra="forbid", strict=True, allow_inf_nan=False, defer_build=True)
