from django.test import SimpleTestCase

from scale.texts import judge


class TextsTest(SimpleTestCase):
    def test_a_heavy_crate(self):
        self.assertEqual(str(judge(21)), "heavy")

    def test_a_light_crate(self):
        self.assertEqual(str(judge(2)), "light")
