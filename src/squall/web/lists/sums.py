"""The sums API: ``POST /api/sums/NAME``, and a page that lists them with examples."""

import json
from typing import Annotated, Any

from fastapi import APIRouter, Depends, Request, Response
from fastapi.responses import JSONResponse

from squall.core.errors import NotFound, OutOfRange, SquallError
from squall.formats import job_json
from squall.sums import SUMS, run
from squall.sums.registry import BadSum, Sum
from squall.web.frame.pages import page
from squall.words import say

router = APIRouter()
MOST_BYTES = 1_000_000


async def body_of(request: Request) -> bytes:
    """The body of a request; read where waiting for it holds nobody up."""
    return await request.body()


Body = Annotated[bytes, Depends(body_of)]


def answer_sum(name: str, body: bytes) -> Response:
    """Work out one sum from a JSON body."""
    if len(body) > MOST_BYTES:
        return _refuse(
            [{"field": "input", "message": say("The input is over {MOST_BYTES} kB.", MOST_BYTES=MOST_BYTES // 1000)}]
        )
    try:
        data = json.loads(body)
    except (ValueError, RecursionError):
        return _refuse([{"field": "input", "message": say("The input is not whole JSON.")}])
    try:
        return JSONResponse(run(name, data).model_dump())
    except NotFound as error:
        return JSONResponse({"error": str(error)}, 404)
    except BadSum as error:
        return _refuse(error.problems)
    except OutOfRange as error:
        return _refuse([{"field": str(error.field), "given": str(error.given), "message": str(error)}])
    except SquallError as error:
        return _refuse([{"field": "input", "message": str(error)}])


def _refuse(problems: list[dict[str, str]]) -> Response:
    return JSONResponse({"error": " ".join(p["message"] for p in problems), "problems": problems}, 422)


def with_definitions(described: dict[str, Any]) -> dict[str, Any]:
    """The description of all addresses with the parts of the sums' inputs where its references look for them.

    A model's schema names its parts below itself; in a description of addresses they stand together, each sum's by its name.
    """
    schemas = described["components"]["schemas"]
    for one in SUMS.values():
        content = described["paths"][f"/api/sums/{one.name}"]["post"]["requestBody"]["content"]["application/json"]
        place = f"{one.name}-{{model}}"
        schema = one.given.model_json_schema(ref_template=f"#/components/schemas/{place}")
        schemas.update({place.format(model=name): part for name, part in schema.pop("$defs", {}).items()})
        content["schema"] = schema
    return described


def _add_route(one: Sum) -> None:
    def endpoint(body: Body) -> Response:
        return answer_sum(one.name, body)

    endpoint.__doc__ = one.about
    router.add_api_route(
        f"/api/sums/{one.name}",
        endpoint,
        methods=["POST"],
        name=f"sum_{one.name}",
        summary=one.about,
        responses={
            200: {"model": one.answer},
            422: {"description": say("Refused: which field, what was given, what is allowed")},
        },
        openapi_extra={
            "requestBody": {
                "required": True,
                # Its schema comes by `with_definitions`.
                "content": {"application/json": {"example": dict(one.example)}},
            }
        },
    )


for _one in SUMS.values():
    _add_route(_one)


@router.post("/api/sums/{name}", include_in_schema=False)
def unknown_sum(name: str, body: Body) -> Response:
    """A sum that is none."""
    return answer_sum(name, body)


@router.get("/sums")
def list_sums(request: Request) -> Response:
    """All sums with their fields and an example each."""
    rows = [
        {"name": one.name, "about": one.about, "example": json.dumps(dict(one.example), indent=1),
         "fields": list(one.given.model_fields), "answers": list(one.answer.model_fields)}
        for one in SUMS.values()
    ]  # fmt: skip
    return page(request, "sums/list.html", {"rows": rows})


@router.get("/schema")
def job_schema() -> Response:
    """JSON Schema of an exported job."""
    return JSONResponse(job_json.schema())
