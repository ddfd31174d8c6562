#pragma once
#include "base/errors.h"

#include <functional>
#include <stop_token>
#include <string_view>

namespace fox {

/// How long work tells how far it is and learns that it should stop. Copies share both.
class Progress {
public:
    /// fraction from 0 to 1, and what is being done, in words
    using Listener = std::function<void(double fraction, std::string_view words)>;

    Progress() = default;
    explicit Progress(std::stop_token stop, Listener listener = {}) : m_stop(std::move(stop)), m_listener(std::move(listener)) {}

    /// @throws Stopped if a stop was asked for
    void report(double fraction, std::string_view words) const {
        check();
        if (m_listener) m_listener(fraction, words);
    }
    /// Cheap enough for inner loops of a millisecond. @throws Stopped
    void check() const {
        if (m_stop.stop_requested()) throw Stopped();
    }

    /// The same stop, and nothing told: for a part whose own fraction would jump about.
    Progress silent() const { return Progress(m_stop); }

private:
    std::stop_token m_stop;
    Listener m_listener;
};

} // namespace fox
