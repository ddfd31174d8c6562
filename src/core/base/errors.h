#pragma once
#include <stdexcept>
#include <string>

namespace fox {

/// What the caller can't go on from; what() is a sentence for a geologist. The tool exits with 1.
struct Error : std::runtime_error {
    using std::runtime_error::runtime_error;
};

/// A file that can't be read or written; the sentence names it.
struct FileError : Error {
    using Error::Error;
};

/// A request whose words are wrong (unknown method, reversed frame). The tool exits with 2.
struct UsageError : Error {
    using Error::Error;
};

/// Work that was asked to stop.
struct Stopped : Error {
    Stopped() : Error("Stopped.") {}
};

} // namespace fox
