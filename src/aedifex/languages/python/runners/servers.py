"""Servers: another program imports the file for its application, or calls its handler."""

from __future__ import annotations

from aedifex.languages.python.runners.known import KnownRunner, words

RUNNER = KnownRunner(
    name="the server",
    modules=words(
        "flask quart bottle fastapi starlette sanic falcon aiohttp tornado pyramid dash celery boto3 wsgiref"
    ),
    signatures=frozenset({("environ", "start_response"), ("event", "context"), ("scope", "receive", "send")}),
    hooks=words("app application api create_app make_app lambda_handler handler celery"),
)
