"""The service against its own schema: whatever a program sends is answered as the schema says."""

from __future__ import annotations

from typing import Any

import schemathesis
from hypothesis import HealthCheck, Phase, given, settings
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from api.models import Scope
from api.tokens import make_token
from eyebolt.wsgi import application
from hauls.tests.yard_case import YardCase
from yards.models import Role

EXAMPLES = 20
CHECKS = [
    not_a_server_error,
    status_code_conformance,
    content_type_conformance,
    response_schema_conformance,
]


class AgainstItsSchema(YardCase):
    def operations(self) -> list[Any]:
        schema = schemathesis.openapi.from_wsgi("/api/v1/openapi.json", application)
        return [one.ok() for one in schema.get_all_operations()]

    def test_whatever_is_sent_is_answered_as_the_schema_says(self) -> None:
        _, secret = make_token(
            yard=self.yard,
            user=self.user,
            role=Role.OWNER,
            name="Chance",
            scopes=[scope.value for scope in Scope],
        )
        headers = {"Authorization": f"Bearer {secret}", "Accept-Encoding": "identity"}
        operations = self.operations()
        self.assertGreater(len(operations), 18)
        for operation in operations:
            # steady: the same examples each time
            @settings(
                max_examples=EXAMPLES,
                deadline=None,
                derandomize=True,
                database=None,
                phases=[Phase.explicit, Phase.generate],
                suppress_health_check=list(HealthCheck),
            )
            @given(case=operation.as_strategy())
            def ask(case: Any) -> None:
                case.call_and_validate(headers=headers, checks=CHECKS)

            with self.subTest(f"{operation.method} {operation.path}"):
                ask()

    def test_nobody_is_let_in_without_a_token(self) -> None:
        for operation in self.operations():
            case = operation.Case(path_parameters={"name": "trucks", "pk": 1})
            with self.subTest(f"{operation.method} {operation.path}"):
                self.assertEqual(case.call().status_code, 401)
