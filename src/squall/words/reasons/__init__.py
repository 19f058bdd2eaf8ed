"""What each code of the core says, in English: a module for each of its packages."""

from squall.words.reasons import (
    advice,
    cards,
    circuit,
    common,
    drive,
    electrics,
    faults,
    hydraulics,
    kit,
    need,
    prove,
    sky,
    sources,
    upkeep,
    years,
)

SENTENCES: dict[str, str | tuple[str, str]] = {
    **advice.SENTENCES,
    **circuit.SENTENCES,
    **common.SENTENCES,
    **drive.SENTENCES,
    **electrics.SENTENCES,
    **faults.SENTENCES,
    **hydraulics.SENTENCES,
    **kit.SENTENCES,
    **need.SENTENCES,
    **prove.SENTENCES,
    **sky.SENTENCES,
    **sources.SENTENCES,
    **cards.SENTENCES,
    **upkeep.SENTENCES,
    **years.SENTENCES,
}
