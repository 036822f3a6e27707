from django.test import SimpleTestCase

from scale import texts


class WordsTest(SimpleTestCase):
    def test_there_are_two_words(self):
        self.assertNotEqual(texts.HEAVY, texts.LIGHT)
