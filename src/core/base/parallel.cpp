#include "base/parallel.h"

#include <algorithm>
#include <tbb/global_control.h>
#include <tbb/parallel_for.h>

namespace fox {

void parallelFor(std::size_t count, std::size_t piece, const std::function<void(std::size_t, std::size_t)>& work,
                 const Progress& progress) {
    const std::size_t pieces = (count + piece - 1) / piece;
    // one piece a task: the cut into pieces, and with it every rounding, is the same for any thread count
    tbb::parallel_for(std::size_t(0), pieces, [&](std::size_t i) {
        progress.check();
        work(i * piece, std::min(count, (i + 1) * piece));
    });
}

ThreadLimit::ThreadLimit(int threads)
    : m_control(threads > 0 ? new tbb::global_control(tbb::global_control::max_allowed_parallelism, std::size_t(threads))
                            : nullptr) {}

ThreadLimit::~ThreadLimit() { delete static_cast<tbb::global_control*>(m_control); }

} // namespace fox
