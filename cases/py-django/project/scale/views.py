"""The pages of the weigh-in."""
from django import forms
from django.contrib.sitemaps import Sitemap
from django.http import HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, render

from scale.models import Crate


class CrateForm(forms.ModelForm):
    """A crate as it is typed in."""

    class Meta:
        model = Crate
        fields = ["grower", "kilos", "weighed"]


class Crates(Sitemap):
    """The crates for those who search."""

    changefreq = "never"

    def items(self):
        return Crate.objects.all()

    def location(self, item):
        return f"/crates/{item.pk}/"


def crates(request):
    """All crates, as a page or for the scale's own screen."""
    found = Crate.objects.all()
    if request.is_ajax():
        return JsonResponse({"kilos": [str(crate.kilos) for crate in found]})
    return render(request, "crates.html", {"crates": found})


def crate(request, number):
    """One crate."""
    found = get_object_or_404(Crate, pk=number)
    return render(request, "crate.html", {"crate": found})


def add(request):
    """Adds a crate."""
    form = CrateForm(request.POST or None)
    if form.is_valid():
        return HttpResponse(str(form.save().pk), status=201)
    return render(request, "add.html", {"form": form})
