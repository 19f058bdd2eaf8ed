"""One job: the document that is typed, how a field of it is edited, and what follows from it.

``document`` is the data, ``fields`` reads what is typed into it, ``changes`` makes the larger
edits (a piece of hose more, a kit adopted), ``assess`` works everything out, ``figures``
explains the numbers and ``verdict`` says it in a sentence.
"""
