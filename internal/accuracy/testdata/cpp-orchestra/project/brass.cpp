// The brass section.
#include "score.hpp"
#include <map>

class Horn : public score::Player {
public:
    void play(const score::Note &n) override { count += n.beats > 0; }
    int count = 0;
};

class Mute : public score::Player {};

int fanfare() {
    Horn h;
    score::Part *p = score::read("fanfare");
    int n = h.perform(*p);
    delete p;
    return n + h.count;
}

int silence() {
    Mute m;
    return m.perform(score::Part("rest"));
}

score::Part *march() { return score::read("march"); }

int unsignedTrouble(const score::Part &p) {
    for (int i = 0; i < p.notes().size(); i++) {
    }
    return 0;
}
