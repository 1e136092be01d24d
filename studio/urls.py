"""Addresses: the API, the login, and the page for everything else."""

from django.contrib.auth.views import LogoutView
from django.urls import path, re_path

from studio.accounts.views import Login
from studio.api import api
from studio.pages.views import page

urlpatterns = [
    path("api/", api.urls),
    path("login", Login.as_view(), name="login"),
    path("logout", LogoutView.as_view(), name="logout"),
    re_path(r"^(?!api/|assets/).*$", page),
]
