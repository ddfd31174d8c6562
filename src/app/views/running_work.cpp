#include "views/running_work.h"

#include <algorithm>

namespace fox::app {

RunningWork& RunningWork::all() {
    static RunningWork work;
    return work;
}

int RunningWork::add(const QString& words, std::function<void()> stop) {
    Entry entry{++m_last, words, 0, {}, std::move(stop)};
    entry.since.start();
    m_entries.push_back(std::move(entry));
    emit changed();
    return m_last;
}

void RunningWork::progress(int id, double fraction) {
    if (const auto at = std::ranges::find(m_entries, id, &Entry::id); at != m_entries.end()) at->fraction = fraction;
}

void RunningWork::remove(int id) {
    if (std::erase_if(m_entries, [id](const Entry& e) { return e.id == id; }) > 0) emit changed();
}

} // namespace fox::app
