"""The addresses of the practice yard."""

urlpatterns: list[object] = []
