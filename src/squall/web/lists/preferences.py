"""A person's own units and theme, kept in cookies."""

from fastapi import APIRouter, Form, Request, Response
from fastapi.responses import RedirectResponse

from squall.web.frame.pages import A_YEAR_S, THEME_COOKIE, THEMES, UNIT_COOKIE

router = APIRouter()


@router.post("/preferences")
def choose(request: Request, units: str = Form(""), theme: str = Form(""), back: str = Form("/")) -> Response:
    """Keep units or theme and go back to the page that asked."""
    target = back if back.startswith("/") and not back.startswith("//") else "/"
    answer = RedirectResponse(target, 303)
    if units in ("metric", "us"):
        answer.set_cookie(UNIT_COOKIE, units, max_age=A_YEAR_S, samesite="strict")
    if theme in THEMES:
        answer.set_cookie(THEME_COOKIE, theme, max_age=A_YEAR_S, samesite="strict")
    return answer
