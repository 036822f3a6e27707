// The wind section.
#include "score.hpp"

score::Part oboe() {
    score::Part p("oboe");
    p.push({69, 4});
    p.clef = score::Treble;
    return p;
}

score::Part clarinet() {
    score::Part p = oboe();
    p.transpose(2);
    return p;
}

score::Track<score::Note> track(const score::Part &p) {
    score::Track<score::Note> t;
    for (auto &n : p.notes()) t.append(n);
    return t;
}

std::string heading(const score::Part &p) { return score::title(p); }

bool high(const score::Note &n) { return n.pitch > 72; }

int lowest(const score::Part &p) {
    int low = 127;
    for (auto &n : p.notes())
        if (n.pitch < low) low = n.pitch;
    return low;
}
