// Tests of what compiles with either version, printed as TAP.
#include "score.hpp"
#include <iostream>

static int number;
static void bars(const char *name, score::Part p, int perBar, int want) {
    int got = score::bars(p, perBar);
    std::cout << (got == want ? "ok " : "not ok ") << ++number << " - " << name << "\n";
    if (got != want)
        std::cout << "  ---\n  message: bars of " << p.length() << " beats\n  expected: " << want << "\n  got: " << got << "\n  file: test_bars.cpp\n  ...\n";
}
static score::Part part(double) { return score::Part("empty"); }

int main() {
    std::cout << "TAP version 13\n1..5\n";
    auto p = score::read("one");
    bars("one beat is no bar", *p, 4, 0);
    bars("one beat of two", *p, 2, 0);
    bars("nothing", part(0), 4, 0);
    bars("one beat of three is no bar", *p, 3, 0);
    bars("one of one", *p, 1, 1);
}
