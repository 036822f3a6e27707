#pragma once
#include <chrono>
#include <cmath>
#include <memory>
#include <stdexcept>
#include <string>
#include <vector>

namespace score {

struct Pitch {
    explicit Pitch(int midi) : midi(midi) {}
    int midi;
};

struct Note {
    Pitch pitch;
    double beats;
};

enum class Clef { Treble, Bass };

class Part {
public:
    explicit Part(std::string name) : name_(std::move(name)) {}
    void add(Note n) { notes_.push_back(n); }
    const std::vector<Note> &notes() const { return notes_; }
    const std::string &name() const { return name_; }
    double length() const {
        double sum = 0;
        for (auto &n : notes_) sum += n.beats;
        return sum;
    }
    Part transposed(int by) const {
        Part p(name_);
        for (auto &n : notes_) p.add({Pitch(n.pitch.midi + by), n.beats});
        return p;
    }
    Clef clef = Clef::Treble;

private:
    std::string name_;
    std::vector<Note> notes_;
};

template <typename T, typename Clock> class Track {
public:
    void append(const T &event) { events_.push_back(event); }
    T at(size_t i) const { return events_.at(i); }
    size_t size() const { return events_.size(); }

private:
    std::vector<T> events_;
};

class Player {
public:
    virtual ~Player() = default;
    virtual void play(const Note &n, double at) = 0;
    int perform(const Part &p) {
        double at = 0;
        for (auto &n : p.notes()) {
            play(n, at);
            at += n.beats;
        }
        return static_cast<int>(p.notes().size());
    }
};

inline std::string noteName(Pitch pitch) {
    static const char *names[] = {"C", "C♯", "D", "D♯", "E", "F", "F♯", "G", "G♯", "A", "A♯", "B"};
    return names[pitch.midi % 12];
}
inline std::unique_ptr<Part> read(const std::string &text) {
    auto p = std::make_unique<Part>(text);
    p->add({Pitch(60), 1});
    return p;
}
inline double seconds(double beats, double tempo) { return beats * 60 / tempo; }
inline int bars(const Part &p, int perBar) { return static_cast<int>(std::ceil(p.length() / perBar)); }

} // namespace score
