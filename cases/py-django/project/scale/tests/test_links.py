from django.test import SimpleTestCase

from scale.links import letter


class LinksTest(SimpleTestCase):
    def test_a_letter_has_the_crate(self):
        self.assertEqual(letter("Ada Lund", 7), "https://scale.example/crates/7/?for=Ada%20Lund")
