"""The address of the search."""

from django.urls import path

from finding import views

urlpatterns = [path("", views.search, name="search")]
