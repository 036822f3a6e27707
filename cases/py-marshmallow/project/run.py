"""The jobs of the night: each is run by itself, as the timer does."""
import datetime
import sys
import traceback
from decimal import Decimal

from orchard import crates, growers, payouts, wire


def job(name, act):
    try:
        print("%s: %s" % (name, act()))
    except Exception:
        print("%s died" % name)
        traceback.print_exc(file=sys.stdout)


job("gate", lambda: crates.weigh({"number": 7, "fruit": "pears", "kilos": 12.5})[0].kilos)
job("letters", lambda: growers.write({"name": "Ilse", "since": 2019}))
job("register", lambda: growers.read({"growerName": "Ilse", "memberSince": 2019})[0])
job("bank", lambda: payouts.text({"amount": Decimal(3)}))
job("packing", lambda: wire.prefixed({"number": 3}))
job("settings", lambda: wire.packed({"belt": 3, "lamp": "on"}))
job("clock", lambda: payouts.when({"sent": datetime.datetime(2031, 2, 18, 7, 30)}))
