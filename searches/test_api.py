"""Whatever is asked of the API, the answer is the one it declares, or a refusal in a sentence."""

from collections.abc import Iterator
from os import environ

import pytest
import schemathesis
from accounts.models import User
from config.api import api
from config.refusal import Refusal
from django.conf import settings
from django.core import signals
from django.core.wsgi import get_wsgi_application
from django.db import close_old_connections
from django.test import Client
from hypothesis import HealthCheck, Phase, given
from hypothesis import settings as budget

SCHEMA = schemathesis.openapi.from_dict(api.get_openapi_schema())
OPERATIONS = [found.ok() for found in SCHEMA.get_all_operations()]
TOKEN = "a" * 32
EXAMPLES = int(environ.get("EXAMPLES", "30"))  # of questions to each address
# Signing out would end the search; MIDI files have a search of their own.
APART = [("DELETE", "/api/session"), ("POST", "/api/clips/import")]
ASKED = [one for one in OPERATIONS if (one.method.upper(), one.path) not in APART]


@pytest.fixture
def cookie(db: None) -> Iterator[dict[str, str]]:
    browser = Client()
    browser.force_login(User.objects.create_user("searcher"))
    browser.post("/api/pieces", {"name": "Night Ferry"}, content_type="application/json")
    # The test stores in a transaction of its own, which goes where its connection is closed after a request.
    ends = (signals.request_started, signals.request_finished)
    for end in ends:
        end.disconnect(close_old_connections)
    yield {
        settings.SESSION_COOKIE_NAME: browser.cookies[settings.SESSION_COOKIE_NAME].value,
        settings.CSRF_COOKIE_NAME: TOKEN,
    }
    for end in ends:
        end.connect(close_old_connections)


# Whoever asks here leaves files of an answer open, which a server closes.
@pytest.mark.filterwarnings("ignore::pytest.PytestUnraisableExceptionWarning")
@pytest.mark.parametrize("operation", ASKED, ids=lambda one: f"{one.method} {one.path}")
def test_every_answer_is_declared_or_a_sentence(operation, cookie, settings):
    settings.SECONDS_A_MINUTE = 10_000  # it asks for more than anybody may
    application = get_wsgi_application()

    @budget(
        max_examples=EXAMPLES, deadline=None, phases=[Phase.generate], suppress_health_check=list(HealthCheck)
    )
    @given(operation.as_strategy())
    def search(case):
        answer = case.call(
            app=application, cookies=cookie, headers={"X-CSRFToken": TOKEN, "Accept-Encoding": "identity"}
        )
        assert answer.status_code < 500, answer.content
        assert str(answer.status_code) in operation.definition.raw["responses"], answer.content
        if answer.status_code >= 400:
            said = Refusal.model_validate_json(answer.content).error
            assert said.message.strip()

    search()
