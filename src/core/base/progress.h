#pragma once
#include "base/errors.h"

#include <atomic>
#include <functional>
#include <memory>
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
        if (m_steps) ++*m_steps;
        if (m_stop.stop_requested()) throw Stopped();
    }
    /// The same, counting every check into `steps`: how much work an input makes, without a clock.
    Progress counting(std::shared_ptr<std::atomic<std::size_t>> steps) const {
        auto other = *this;
        other.m_steps = std::move(steps);
        return other;
    }

    /// The same stop, and nothing told: for a part whose own fraction would jump about.
    Progress silent() const {
        Progress other(m_stop);
        other.m_steps = m_steps;
        return other;
    }

private:
    std::stop_token m_stop;
    Listener m_listener;
    std::shared_ptr<std::atomic<std::size_t>> m_steps; ///< null: not counted
};

} // namespace fox
