"""Addresses of the road."""

from django.urls import path

from road import (
    defect_views,
    inspection_views,
    log_views,
    noting_views,
    rules_views,
    stopped_views,
    views,
)

urlpatterns = [
    path("", views.day, name="road"),
    path("sways/", views.it_sways, name="sways"),
    path("log/", log_views.road_log, name="road_log"),
    path("log/<int:pk>/remove/", noting_views.remove_trip, name="remove_trip"),
    path("defects/", defect_views.defects, name="defects"),
    path("defects/<int:pk>/decide/", defect_views.decide_defect, name="decide_defect"),
    path("defects/<int:pk>/mend/", defect_views.mend_defect, name="mend_defect"),
    path("inspections/", inspection_views.inspections, name="inspections"),
    path("inspections/<int:pk>/done/", inspection_views.inspected, name="inspected"),
    path(
        "inspections/<int:pk>/remove/",
        inspection_views.remove_inspection,
        name="remove_inspection",
    ),
    path("rules/", rules_views.road_rules, name="road_rules"),
    path("stopped/<int:pk>/teach/", stopped_views.teach_book, name="teach_stopped"),
]
