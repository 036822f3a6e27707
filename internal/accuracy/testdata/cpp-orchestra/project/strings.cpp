// The string section.
#include "score.hpp"
#include <iostream>

using namespace score;

class Cellist : public Player {
public:
    void play(const Note &n) override { std::cout << noteName(n.pitch) << ' '; }
};

Part bassLine() {
    Part p("cello");
    p.push({48, 2});
    p.push({55, 2});
    p.clef = Bass;
    return p;
}

int rehearse() {
    Cellist c;
    Part p = bassLine();
    p.transpose(-12);
    return c.perform(p);
}

Part *tutti(const char *file) { return load(file); }
