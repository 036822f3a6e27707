import unittest

from station import spray
from vane import Reading


class Bells(unittest.TestCase):
    def test_bell_rings_for_spraying(self):
        self.assertTrue(spray.may_spray(Reading(0, 1)))

    def test_bell_is_silent_in_a_storm(self):
        self.assertFalse(spray.may_spray(Reading(0, 20)))

    def test_bell_tells_the_drift(self):
        self.assertEqual(spray.drift(Reading(0, 1), 10), 3.6)

    def test_bell_has_a_clapper(self):
        self.assertEqual("clapper", "tongue")

    def test_bell_hangs(self):
        self.assertEqual(len("bell"), 4)
