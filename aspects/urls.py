"""Addresses of the views of a haul, as each of them names them."""

from django.urls import include, path

from aspects import views
from aspects.registry import aspects

urlpatterns = [
    path("hauls/<int:pk>/archive/", views.archive, name="archive_haul"),
    path("hauls/<int:pk>/share/", views.share, name="share_haul"),
    path("hauls/<int:pk>/remove/", views.remove, name="remove_haul"),
    *(
        path("hauls/<int:pk>/", include(module))
        for module in dict.fromkeys(aspect.urls for aspect in aspects())
    ),
]
