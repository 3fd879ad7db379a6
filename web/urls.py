"""Addresses that make the application one that a phone can install and open without signal."""

from django.urls import path

from web import install_views

urlpatterns = [
    path("manifest.webmanifest", install_views.manifest, name="manifest"),
    path("worker.js", install_views.worker, name="worker"),
    path("no-signal/", install_views.no_signal, name="no_signal"),
]
