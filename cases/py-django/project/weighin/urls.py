"""The addresses of the weigh-in."""
from django.contrib.auth.views import LogoutView
from django.contrib.sitemaps.views import sitemap
from django.urls import path

from scale import views

urlpatterns = [
    path("crates/", views.crates),
    path("crates/add/", views.add),
    path("crates/<int:number>/", views.crate),
    path("leave/", LogoutView.as_view(next_page="/crates/")),
    path("sitemap.xml", sitemap, {"sitemaps": {"crates": views.Crates}}),
]
