#include <Rcpp/Light>

#include <cerrno>
#include <csignal>
#include <cstring>
#include <string>

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

// Writing that is checked to the last byte: R's own connections say nothing when a disk is full.

namespace {

std::string reason() { return std::strerror(errno); }

// "" when all was written, else why not.
std::string write_all(int file, const Rcpp::RawVector& bytes) {
  R_xlen_t written = 0;
  while (written < bytes.size()) {
    const ssize_t more = write(file, RAW(bytes) + written, static_cast<std::size_t>(bytes.size() - written));
    if (more < 0 && errno == EINTR) continue;
    if (more < 0) return reason();
    written += more;
  }
  return "";
}

// A reader that has gone is an error of the write, no signal that ends us.
class PipesIgnored {
 public:
  PipesIgnored() {
    struct sigaction ignore = {};
    ignore.sa_handler = SIG_IGN;
    sigaction(SIGPIPE, &ignore, &before_);
  }
  ~PipesIgnored() { sigaction(SIGPIPE, &before_, nullptr); }

 private:
  struct sigaction before_;
};

}  // namespace

// Writes a file from its beginning and waits until the disk has it: "" when it has, else why not.
// [[Rcpp::export(rng = false)]]
std::string core_write_file(std::string path, Rcpp::RawVector bytes) {
  const PipesIgnored ignored;
  const int file = open(path.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0666);
  if (file < 0) return reason();
  std::string problem = write_all(file, bytes);
  // Pipes and devices cannot wait.
  if (problem.empty() && fsync(file) != 0 && errno != EINVAL && errno != EROFS) problem = reason();
  if (close(file) != 0 && problem.empty()) problem = reason();
  return problem;
}

// Writes to standard output: "" when all went, "closed" when nobody reads any more, else why not.
// [[Rcpp::export(rng = false)]]
std::string core_write_output(Rcpp::RawVector bytes) {
  const PipesIgnored ignored;
  std::string problem = write_all(STDOUT_FILENO, bytes);
  return errno == EPIPE && !problem.empty() ? "closed" : problem;
}

// What a path leads to: "nothing", "file", "folder" or "other" (a device, a pipe).
// [[Rcpp::export(rng = false)]]
std::string core_path_kind(std::string path) {
  struct stat found;
  if (stat(path.c_str(), &found) != 0) return "nothing";
  if (S_ISREG(found.st_mode)) return "file";
  return S_ISDIR(found.st_mode) ? "folder" : "other";
}
