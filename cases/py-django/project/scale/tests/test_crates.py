import datetime
from decimal import Decimal

from django.core import signing
from django.core.exceptions import ValidationError
from django.core.validators import validate_ipv4_address
from django.db import IntegrityError
from django.test import TestCase

from scale.models import Crate, Grower

NOON = datetime.datetime(2024, 6, 3, 12)


class CratesTest(TestCase):
    def setUp(self):
        self.ada = Grower.objects.create(name="Ada")

    def crate(self, kilos="12.5"):
        return Crate.objects.create(grower=self.ada, kilos=Decimal(kilos), weighed=NOON)

    def test_a_crate_is_kept(self):
        self.crate()
        self.assertEqual(Crate.objects.get().kilos, Decimal("12.5"))

    def test_a_crate_keeps_its_hour(self):
        self.crate()
        self.assertEqual(Crate.objects.get().weighed, NOON)

    def test_crates_of_an_hour(self):
        self.crate()
        self.assertEqual(Crate.objects.filter(weighed__hour=12).count(), 1)

    def test_a_crate_is_weighed_by_day(self):
        self.crate()
        self.assertEqual(Crate.objects.get().weighed.isoformat(), "2024-06-03T12:00:00")

    def test_nothing_weighs_nothing(self):
        with self.assertRaises(IntegrityError):
            self.crate("0")

    def test_crates_stand_in_order(self):
        self.crate("1"), self.crate("2")
        self.assertQuerysetEqual(Crate.objects.all(), ["1.0", "2.0"], transform=lambda crate: str(crate.kilos))

    def test_crates_of_a_grower(self):
        self.crate()
        self.assertQuerysetEqual(self.ada.crates.all(), [Decimal("12.5")], transform=lambda crate: crate.kilos)

    def test_there_are_no_crates(self):
        self.assertQuerysetEqual(Crate.objects.all(), [])

    def test_crates_of_somebody_new(self):
        self.assertEqual(Crate.objects.filter(grower=Grower(name="Ben")).count(), 0)

    def test_nobody_new_has_crates(self):
        self.assertEqual(list(Grower(name="Ben").crates.all()), [])

    def test_growers_with_their_crates(self):
        self.crate()
        growers = Grower.objects.prefetch_related("crates").iterator()
        self.assertEqual([len(grower.crates.all()) for grower in growers], [1])

    def test_a_faulty_address_of_a_scale(self):
        with self.assertRaisesMessage(ValidationError, "Bitte eine gültige IPv4-Adresse eingeben."):
            validate_ipv4_address("scale-4")

    def test_a_signed_crate(self):
        self.assertEqual(signing.loads(signing.dumps({"crate": 7})), {"crate": 7})

    def test_a_weight_has_a_comma(self):
        self.assertEqual(str(self.crate().kilos), "12,5")


class PagesTest(TestCase):
    def setUp(self):
        ada = Grower.objects.create(name="Ada")
        self.first = Crate.objects.create(grower=ada, kilos=Decimal("1012.5"), weighed=NOON)

    def test_the_list(self):
        self.assertContains(self.client.get("/crates/"), "1012.5")

    def test_the_list_for_the_screen(self):
        response = self.client.get("/crates/", HTTP_X_REQUESTED_WITH="XMLHttpRequest")
        self.assertEqual(response.json(), {"kilos": ["1012.5"]})

    def test_the_list_has_one_crate(self):
        self.assertContains(self.client.get("/crates/"), "<li>", count=1)

    def test_the_list_is_a_page(self):
        self.assertEqual(self.client.get("/crates/")["Content-Type"], "text/html; charset=utf-8")

    def test_the_screen_is_told_in_json(self):
        response = self.client.get("/crates/", HTTP_X_REQUESTED_WITH="XMLHttpRequest")
        self.assertEqual(response["Content-Type"], "application/json")

    def test_one_crate(self):
        self.assertContains(self.client.get(f"/crates/{self.first.pk}/"), "<b>1012.5</b> kg")

    def test_no_such_crate(self):
        self.assertEqual(self.client.get("/crates/99/").status_code, 404)

    def test_the_form_is_a_table(self):
        self.assertContains(self.client.get("/crates/add/"), "<tr><th>")

    def test_a_faulty_crate(self):
        response = self.client.post("/crates/add/", {"kilos": "-"})
        self.assertFormError(response, "form", "kilos", "Bitte eine Zahl eingeben.")

    def test_a_crate_without_a_grower(self):
        response = self.client.post("/crates/add/", {"kilos": "3"})
        self.assertFormError(response, "form", "grower", ["Dieses Feld ist zwingend erforderlich."])

    def test_leaving(self):
        self.assertRedirects(self.client.get("/leave/"), "/crates/", fetch_redirect_response=False)

    def test_the_map_for_those_who_search(self):
        response = self.client.get("/sitemap.xml", HTTP_HOST="scale.example")
        self.assertContains(response, "<loc>http://scale.example/crates/")

    def test_the_list_has_few_headers(self):
        response = self.client.get("/crates/99/")
        self.assertEqual(sorted(response.headers), ["Content-Type", "Referrer-Policy", "X-Content-Type-Options"])
