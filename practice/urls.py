"""The addresses of the practice yard."""

from django.urls import path

from practice import course_views, views

urlpatterns = [
    path("", views.practice, name="practice"),
    path("tows/", views.tows, name="practice_tows"),
    path("begin/", views.begin, name="practice_begin"),
    path("record/", views.record, name="practice_record"),
    path("record/<int:pk>/", views.record, name="practice_record_of"),
    path("terms/", views.terms, name="practice_terms"),
    path("answers/<int:pk>/", views.done, name="practice_done"),
    path("courses/new/", course_views.edit_course, name="practice_course_new"),
    path("courses/<int:pk>/", course_views.course, name="practice_course"),
    path("courses/<int:pk>/edit/", course_views.edit_course, name="practice_course_edit"),
    path("courses/<int:pk>/remove/", course_views.remove_course, name="practice_course_remove"),
    path("courses/<int:pk>/add/", course_views.part_of_course, name="practice_course_add"),
    path("courses/<int:pk>/sheets/", course_views.sheets, name="practice_sheets"),
    path("parts/<int:pk>/", course_views.take_part, name="practice_part"),
    path("parts/<int:pk>/change/", course_views.change_part, name="practice_part_change"),
    path("<slug:kind>/<int:seed>/", views.case, name="practice_case"),
    path("<slug:kind>/<int:seed>/placed/", views.placed, name="practice_placed"),
]
