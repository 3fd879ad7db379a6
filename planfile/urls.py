"""Addresses of the published schemas."""

from django.urls import path

from planfile import views

urlpatterns = [path("<slug:name>.schema.json", views.schema, name="schema")]
