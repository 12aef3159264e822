"""Addresses: the API, and the one page for everything else."""

from django.urls import path, re_path

from config.api import api
from config.page import page

urlpatterns = [path("api/", api.urls), re_path(r"^(?!api/|static/).*$", page)]
