"""Where a proxy or a watchman asks whether the server is well."""

from django.urls import path

from upkeep.views import healthz

urlpatterns = [path("healthz", healthz, name="healthz")]
