#pragma once
#include <map>
#include <memory>
#include <stdexcept>
#include <string>
#include <vector>

namespace score {

struct Note {
    int pitch;
    double beats;
};

enum Clef { Treble, Bass };

class Part {
public:
    explicit Part(std::string name) : name_(std::move(name)) {}
    void push(Note n) { notes_.push_back(n); }
    const std::vector<Note> &notes() const { return notes_; }
    const std::string &name() const { return name_; }
    double length() const {
        double sum = 0;
        for (auto &n : notes_) sum += n.beats;
        return sum;
    }
    void transpose(int by) {
        for (auto &n : notes_) n.pitch += by;
    }
    Clef clef = Treble;

private:
    std::string name_;
    std::vector<Note> notes_;
};

template <typename T> class Track {
public:
    void append(const T &event) { events_.push_back(event); }
    T at(size_t i) const { return events_[i]; }
    size_t size() const { return events_.size(); }

private:
    std::vector<T> events_;
};

class Player {
public:
    virtual ~Player() = default;
    virtual void play(const Note &n) { (void)n; }
    int perform(const Part &p) {
        for (auto &n : p.notes()) play(n);
        return static_cast<int>(p.notes().size());
    }
};

inline std::string noteName(int pitch) {
    static const char *names[] = {"C", "C#", "D", "D#", "E", "F", "F#", "G", "G#", "A", "A#", "B"};
    return names[pitch % 12];
}
[[deprecated("use read")]] inline Part *load(const char *text);
inline Part *read(const char *text) {
    auto p = new Part(text);
    p->push({60, 1});
    return p;
}
inline Part *load(const char *text) { return read(text); }
inline double seconds(double beats, int tempo) { return beats * 60 / tempo; }
inline int bars(const Part &p, int perBar) { return static_cast<int>(p.length()) / perBar; }
inline std::string title(const Part &p) { return p.name(); }

} // namespace score
