"""Courses of Practise: one question after the other, answered with a click; then whether that is so, and why."""

from sqlite3 import Connection
from typing import Annotated
from urllib.parse import urlencode

from fastapi import APIRouter, Depends, Form, Query, Request, Response
from fastapi.responses import RedirectResponse
from pydantic import BaseModel, Field

from squall.standins.courses import COURSES, course_of, steps_of
from squall.store.lessons import COURSE, Finished, keep_lesson
from squall.web.frame.pages import database, page
from squall.web.lists.practise import may_keep
from squall.words import voice

router = APIRouter()
Db = Annotated[Connection, Depends(database)]


class Asked(BaseModel):
    """Which question of a course, what was answered, who learns."""

    step: int = Field(1, ge=1, le=99)
    said: str = Field("", max_length=40)
    learner: str = Field("", max_length=200)

    def address(self, code: str, step: int, said: str = "") -> str:
        """Where the course stands at a question, with an answer to it."""
        query = {"step": step, "learner": self.learner} | ({"said": said} if said else {})
        return f"/practise/course/{code}?{urlencode(query)}"


@router.get("/practise/course/{code}")
def question(code: str, request: Request, asked: Annotated[Asked, Query()]) -> Response:
    """A question; once it is answered, whether that is so, and why."""
    course = course_of(code)
    steps = steps_of(course, voice())
    number = min(asked.step, len(steps))
    step = steps[number - 1]
    codes = list(COURSES)
    after = codes[codes.index(code) + 1] if codes.index(code) + 1 < len(codes) else None
    return page(request, "practise/course.html", {
        "course": course, "step": step, "number": number, "count": len(steps), "said": asked.said if asked.said in step.options else "",
        "learner": asked.learner, "may_keep": may_keep(request),
        "onward": asked.address(code, number + 1) if number < len(steps) else None,
        "after": None if after is None else (COURSES[after], asked.address(after, 1)),
    })  # fmt: skip


@router.post("/practise/course/{code}")
def say_it(code: str, conn: Db, form: Annotated[Asked, Form()]) -> Response:
    """Answer a question: kept with whoever learns, of each question the first answer."""
    steps = steps_of(course_of(code), voice())
    number = min(form.step, len(steps))
    step = steps[number - 1]
    if form.said not in step.options:
        return RedirectResponse(form.address(code, number), 303)
    keep_lesson(conn, Finished(form.learner, code, COURSE, number, "", form.said, step.right, 0.0, 0, 0))
    return RedirectResponse(form.address(code, number, form.said), 303)
