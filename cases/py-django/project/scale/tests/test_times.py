import datetime

from django.test import SimpleTestCase
from django.utils import timezone

from scale.times import opening, stamp


class TimesTest(SimpleTestCase):
    def test_the_scale_opens_at_six(self):
        self.assertEqual(opening(datetime.date(2024, 6, 3)).hour, 6)

    def test_the_scale_opens_in_winter(self):
        self.assertEqual(opening(datetime.date(2024, 1, 3)).utcoffset(), datetime.timedelta(hours=1))

    def test_a_moment_is_printed(self):
        noon = datetime.datetime(2024, 6, 3, 12, tzinfo=datetime.timezone.utc)
        self.assertEqual(stamp(noon), "12:00")

    def test_now_is_naive(self):
        self.assertTrue(timezone.is_naive(timezone.now()))

    def test_now_is_the_hour_of_the_scale(self):
        self.assertIsNone(timezone.now().tzinfo)

    def test_the_scale_opens_before_noon(self):
        self.assertLess(opening(datetime.date(2024, 6, 3)).hour, 12)

    def test_an_early_moment_is_printed(self):
        early = datetime.datetime(2024, 6, 3, 0, 5, tzinfo=datetime.timezone.utc)
        self.assertEqual(stamp(early), "00:05")
