#include "formats/netcdf_file.h"

#include "base/errors.h"
#include "base/limits.h"
#include "base/point.h"

#include <fmt/format.h>
#include <mutex>
#include <netcdf.h>
#include <optional>
#include <utility>

namespace fox {

namespace {

/// The library keeps its open files in one list, without locks.
std::mutex& netcdfMutex() {
    static std::mutex mutex;
    return mutex;
}

/// An open file; closes itself.
class OpenNetcdf {
public:
    explicit OpenNetcdf(std::filesystem::path path) : m_lock(netcdfMutex()), m_path(std::move(path)) {}
    OpenNetcdf(const OpenNetcdf&) = delete;
    ~OpenNetcdf() {
        if (m_id >= 0) nc_close(m_id);
    }
    void create() { check(nc_create(m_path.c_str(), NC_CLOBBER | NC_64BIT_OFFSET, &m_id)); }
    void open(int mode) { check(nc_open(m_path.c_str(), mode, &m_id)); }
    void close() {
        const int id = std::exchange(m_id, -1);
        check(nc_close(id));
    }
    int id() const { return m_id; }
    void check(int status) const {
        if (status != NC_NOERR) throw FileError(fmt::format("{}: {}.", m_path.string(), nc_strerror(status)));
    }

private:
    std::lock_guard<std::mutex> m_lock;
    std::filesystem::path m_path;
    int m_id = -1;
};

void addAttributes(const OpenNetcdf& file, int variable, const NetcdfAttributes& attributes) {
    for (const auto& [name, value] : attributes) {
        if (const auto* text = std::get_if<std::string>(&value))
            file.check(nc_put_att_text(file.id(), variable, name.c_str(), text->size(), text->c_str()));
        else if (const auto* number = std::get_if<double>(&value))
            file.check(nc_put_att_double(file.id(), variable, name.c_str(), NC_DOUBLE, 1, number));
        else
            file.check(nc_put_att_int(file.id(), variable, name.c_str(), NC_INT, 1, &std::get<std::int32_t>(value)));
    }
}

/// Says what a variable is; its number.
int define(const OpenNetcdf& file, const NetcdfVariable& v) {
    std::vector<int> dimensions;
    for (const auto& name : v.dimensions) {
        int id = -1;
        file.check(nc_inq_dimid(file.id(), name.c_str(), &id));
        dimensions.push_back(id);
    }
    const bool whole = v.values.index() == 1;
    int id = -1;
    file.check(nc_def_var(file.id(), v.name.c_str(), whole ? NC_INT : NC_DOUBLE, int(dimensions.size()), dimensions.data(), &id));
    if (!whole && !v.dimensions.empty()) file.check(nc_put_att_double(file.id(), id, "_FillValue", NC_DOUBLE, 1, &kNoValue));
    addAttributes(file, id, v.attributes);
    return id;
}

/// The number of a variable that is there, if it has these dimensions and this kind of numbers. @throws FileError if not
int sameVariable(const OpenNetcdf& file, int id, const NetcdfVariable& v) {
    nc_type type = NC_NAT;
    int count = 0;
    file.check(nc_inq_var(file.id(), id, nullptr, &type, &count, nullptr, nullptr));
    std::vector<int> dimensions(std::size_t(count), 0);
    file.check(nc_inq_vardimid(file.id(), id, dimensions.data()));
    std::vector<std::string> names;
    for (const int d : dimensions) {
        char name[NC_MAX_NAME + 1] = {};
        file.check(nc_inq_dimname(file.id(), d, name));
        names.emplace_back(name);
    }
    if (names != v.dimensions || (v.values.index() == 1) != (type == NC_INT))
        throw FileError(fmt::format("There is a variable \"{}\" of another shape; rename it.", v.name));
    return id;
}

void put(const OpenNetcdf& file, int id, const NetcdfVariable& v) {
    if (const auto* whole = std::get_if<1>(&v.values))
        file.check(nc_put_var_int(file.id(), id, whole->data()));
    else
        file.check(nc_put_var_double(file.id(), id, std::get<0>(v.values).data()));
}

std::uintmax_t padded(std::uintmax_t bytes) { return (bytes + 3) / 4 * 4; }

/// How long a file of the classic format is at least, by its header; 0 for other formats. The library itself reads zeros behind
/// the end of a file.
std::uintmax_t leastSize(const OpenNetcdf& file) {
    int format = 0, dimensions = 0, variables = 0, attributes = 0, unlimited = -1;
    file.check(nc_inq_format(file.id(), &format));
    if (format != NC_FORMAT_CLASSIC && format != NC_FORMAT_64BIT_OFFSET) return 0;
    file.check(nc_inq(file.id(), &dimensions, &variables, &attributes, &unlimited));
    char name[NC_MAX_NAME + 1] = {};
    std::uintmax_t out = 32; // magic, number of records, three lists
    for (int d = 0; d < dimensions; ++d) {
        file.check(nc_inq_dimname(file.id(), d, name));
        out += 8 + padded(std::string_view(name).size());
    }
    const auto addAttributes = [&](int variable, int count) {
        for (int i = 0; i < count; ++i) {
            nc_type type = NC_NAT;
            std::size_t length = 0, bytes = 0;
            file.check(nc_inq_attname(file.id(), variable, i, name));
            file.check(nc_inq_att(file.id(), variable, name, &type, &length));
            file.check(nc_inq_type(file.id(), type, nullptr, &bytes));
            out += 12 + padded(std::string_view(name).size()) + padded(length * bytes);
        }
    };
    addAttributes(NC_GLOBAL, attributes);
    for (int v = 0; v < variables; ++v) {
        nc_type type = NC_NAT;
        int count = 0;
        std::size_t bytes = 0;
        file.check(nc_inq_var(file.id(), v, name, &type, &count, nullptr, &attributes));
        file.check(nc_inq_type(file.id(), type, nullptr, &bytes));
        std::vector<int> ids(std::size_t(count), 0);
        file.check(nc_inq_vardimid(file.id(), v, ids.data()));
        out += 28 + padded(std::string_view(name).size()) + 4 * ids.size();
        addAttributes(v, attributes);
        std::uintmax_t values = 1;
        for (const int d : ids) {
            std::size_t length = 0;
            file.check(nc_inq_dimlen(file.id(), d, &length));
            values *= length; // records too: they follow one another
        }
        out += values * bytes;
    }
    return format == NC_FORMAT_CLASSIC ? out - std::uintmax_t(variables) * 4 : out; // offsets of four bytes
}

std::optional<double> numberAttribute(int file, int variable, const char* name) {
    double value = 0;
    std::size_t length = 0;
    if (nc_inq_attlen(file, variable, name, &length) != NC_NOERR || length != 1) return {};
    if (nc_get_att_double(file, variable, name, &value) != NC_NOERR) return {};
    return value;
}

std::map<std::string, std::string> textAttributes(const OpenNetcdf& file, int variable, int count) {
    std::map<std::string, std::string> out;
    for (int i = 0; i < count; ++i) {
        char name[NC_MAX_NAME + 1] = {};
        nc_type type = NC_NAT;
        std::size_t length = 0;
        file.check(nc_inq_attname(file.id(), variable, i, name));
        file.check(nc_inq_att(file.id(), variable, name, &type, &length));
        if (type != NC_CHAR || length > limits::kTextLength) continue;
        std::string text(length, ' ');
        file.check(nc_get_att_text(file.id(), variable, name, text.data()));
        while (!text.empty() && text.back() == '\0') text.pop_back();
        out[name] = text;
    }
    return out;
}

NetcdfNumbers readVariable(const OpenNetcdf& file, int id, int dimensionCount, int attributeCount) {
    NetcdfNumbers out;
    std::vector<int> dimensions(std::size_t(dimensionCount), 0);
    file.check(nc_inq_vardimid(file.id(), id, dimensions.data()));
    double count = 1;
    for (const int d : dimensions) {
        char name[NC_MAX_NAME + 1] = {};
        std::size_t length = 0;
        file.check(nc_inq_dim(file.id(), d, name, &length));
        out.dimensions.emplace_back(name);
        out.lengths.push_back(length);
        count *= double(length);
    }
    if (count > limits::kGridCells)
        throw FileError(fmt::format("a variable has {:.0f} values; the limit is {:.0f}", count, limits::kGridCells));
    out.values.resize(std::size_t(count));
    if (!out.values.empty()) file.check(nc_get_var_double(file.id(), id, out.values.data()));
    const auto fill = numberAttribute(file.id(), id, "_FillValue"), missing = numberAttribute(file.id(), id, "missing_value");
    const double scale = numberAttribute(file.id(), id, "scale_factor").value_or(1);
    const double offset = numberAttribute(file.id(), id, "add_offset").value_or(0);
    for (double& v : out.values) v = (fill && v == *fill) || (missing && v == *missing) ? kNoValue : v * scale + offset;
    out.attributes = textAttributes(file, id, attributeCount);
    return out;
}

} // namespace

void writeNetcdf(const std::filesystem::path& path, const std::vector<std::pair<std::string, std::size_t>>& dimensions,
                 const std::vector<NetcdfVariable>& variables, const NetcdfAttributes& global) {
    OpenNetcdf file(path);
    file.create();
    file.check(nc_set_fill(file.id(), NC_NOFILL, nullptr));
    for (const auto& [name, length] : dimensions) {
        int ignored = -1;
        file.check(nc_def_dim(file.id(), name.c_str(), length, &ignored));
    }
    addAttributes(file, NC_GLOBAL, global);
    std::vector<int> ids;
    for (const auto& v : variables) ids.push_back(define(file, v));
    file.check(nc_enddef(file.id()));
    for (std::size_t i = 0; i < variables.size(); ++i) put(file, ids[i], variables[i]);
    file.close();
}

std::map<std::string, NetcdfNumbers> readNetcdf(const std::filesystem::path& path) {
    OpenNetcdf file(path);
    file.open(NC_NOWRITE);
    std::error_code unknown;
    if (const auto least = leastSize(file); least > std::filesystem::file_size(path, unknown) && !unknown)
        throw FileError(fmt::format("{} ends too early: it should have {} bytes at least.", path.string(), least));
    int variables = 0;
    file.check(nc_inq_nvars(file.id(), &variables));
    std::map<std::string, NetcdfNumbers> out;
    for (int id = 0; id < variables; ++id) {
        char name[NC_MAX_NAME + 1] = {};
        nc_type type = NC_NAT;
        int dimensions = 0, attributes = 0;
        file.check(nc_inq_var(file.id(), id, name, &type, &dimensions, nullptr, &attributes));
        if (type == NC_CHAR || type == NC_STRING || type > NC_MAX_ATOMIC_TYPE) continue;
        out[name] = readVariable(file, id, dimensions, attributes);
    }
    return out;
}

void copyNetcdfWith(const std::filesystem::path& from, const std::filesystem::path& to,
                    const std::vector<NetcdfVariable>& variables) {
    std::error_code error;
    std::filesystem::copy_file(from, to, std::filesystem::copy_options::overwrite_existing, error);
    if (error) throw FileError(fmt::format("{} can't be copied to {}: {}.", from.string(), to.string(), error.message()));
    OpenNetcdf file(to);
    file.open(NC_WRITE);
    file.check(nc_redef(file.id()));
    std::vector<int> ids;
    for (const auto& v : variables) {
        int known = -1;
        ids.push_back(nc_inq_varid(file.id(), v.name.c_str(), &known) == NC_NOERR ? sameVariable(file, known, v)
                                                                                  : define(file, v));
    }
    file.check(nc_enddef(file.id()));
    for (std::size_t i = 0; i < variables.size(); ++i) put(file, ids[i], variables[i]);
    file.close();
}

} // namespace fox
