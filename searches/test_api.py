"""Whatever is asked of the API, the answer is the one it declares, or a refusal in a sentence."""

import pytest
import schemathesis
from accounts.models import User
from config.api import api
from config.refusal import Refusal
from config.wsgi import application
from django.conf import settings
from django.test import Client
from hypothesis import HealthCheck, given
from hypothesis import settings as budget

SCHEMA = schemathesis.openapi.from_dict(api.get_openapi_schema())
OPERATIONS = [found.ok() for found in SCHEMA.get_all_operations()]
TOKEN = "a" * 32
# Signing out would end the search; MIDI files have a search of their own.
ASKED = [one for one in OPERATIONS if not one.path.endswith(("/sign-out", "/clips/import"))]


@pytest.fixture
def cookie(db: None) -> dict[str, str]:
    browser = Client()
    browser.force_login(User.objects.create_user("searcher"))
    browser.post("/api/pieces", {"name": "Night Ferry"}, content_type="application/json")
    return {
        settings.SESSION_COOKIE_NAME: browser.cookies[settings.SESSION_COOKIE_NAME].value,
        settings.CSRF_COOKIE_NAME: TOKEN,
    }


@pytest.mark.parametrize("operation", ASKED, ids=lambda one: f"{one.method} {one.path}")
def test_every_answer_is_declared_or_a_sentence(operation, cookie):
    @budget(max_examples=30, suppress_health_check=list(HealthCheck))
    @given(operation.as_strategy())
    def search(case):
        answer = case.call(app=application, cookies=cookie, headers={"X-CSRFToken": TOKEN})
        assert answer.status_code < 500 or answer.status_code == 503, answer.content
        if answer.status_code >= 400:
            said = Refusal.model_validate_json(answer.content).error
            assert said.message.strip()

    search()
