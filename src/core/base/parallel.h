#pragma once
#include "base/progress.h"

#include <cstddef>
#include <functional>

namespace fox {

/// Calls work(begin, end) for pieces of [0, count) of at most `piece`, on all allowed threads.
/// Pieces are cut the same way for any number of threads. @throws what work throws, or Stopped
void parallelFor(std::size_t count, std::size_t piece, const std::function<void(std::size_t, std::size_t)>& work,
                 const Progress& progress = {});

/// At most `threads` threads from now until this is destroyed; 0 is all cores.
class ThreadLimit {
public:
    explicit ThreadLimit(int threads);
    ~ThreadLimit();
    ThreadLimit(const ThreadLimit&) = delete;
    ThreadLimit& operator=(const ThreadLimit&) = delete;

private:
    void* m_control;
};

} // namespace fox
