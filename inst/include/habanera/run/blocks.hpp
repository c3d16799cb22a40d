#pragma once

#include <algorithm>
#include <atomic>
#include <condition_variable>
#include <cstddef>
#include <cstdint>
#include <exception>
#include <mutex>
#include <optional>
#include <thread>
#include <type_traits>
#include <utility>
#include <vector>

#include "habanera/chance/stop_sign.hpp"

namespace habanera {

inline constexpr std::uint64_t default_block = 2048;

// Where threads report that their share is done, and wait until what they made has been read: a worker is built,
// used and destroyed by one thread, since memory that another thread gives back comes to lie beside that thread's own,
// on one cache line.
template <class Worker>
class Gathering {
 public:
  explicit Gathering(std::size_t threads) : workers_(threads, nullptr) {}

  // A thread without a worker reports nullptr.
  void report_and_wait(std::size_t thread, const Worker* worker) {
    std::unique_lock<std::mutex> hold(lock_);
    workers_[thread] = worker;
    ++reported_;
    changed_.notify_all();
    changed_.wait(hold, [&] { return let_go_; });
  }

  // The workers of the first `threads` threads, once all of them have reported.
  const std::vector<const Worker*>& wait_for(std::size_t threads) {
    std::unique_lock<std::mutex> hold(lock_);
    changed_.wait(hold, [&] { return reported_ == threads; });
    return workers_;
  }

  void let_go() {
    const std::lock_guard<std::mutex> hold(lock_);
    let_go_ = true;
    changed_.notify_all();
  }

 private:
  std::mutex lock_;
  std::condition_variable changed_;
  std::vector<const Worker*> workers_;
  std::size_t reported_ = 0;
  bool let_go_ = false;
};

// The blocks of a run, handed out one by one, until one of them fails.
class Blocks {
 public:
  Blocks(std::uint64_t first, std::uint64_t count, std::uint64_t size)
      : next_(first), end_(first + count), size_(size) {}

  template <class Worker>
  void work_off(Worker& worker, StopSign& sign) {
    for (;;) {
      sign.look();
      const std::uint64_t begin = next_.fetch_add(size_);
      if (begin >= end_) return;
      worker.run(begin, std::min(begin + size_, end_));
    }
  }

  // To be called where an exception is caught: the first one counts, and no more blocks are handed out.
  void fail() {
    const std::lock_guard<std::mutex> hold(lock_);
    if (!failure_) failure_ = std::current_exception();
    next_.store(end_);
  }
  void rethrow_failure() {
    const std::lock_guard<std::mutex> hold(lock_);
    if (failure_) std::rethrow_exception(failure_);
  }

 private:
  std::atomic<std::uint64_t> next_;
  const std::uint64_t end_, size_;
  std::mutex lock_;
  std::exception_ptr failure_;
};

// The threads beside the main one. Lets them go and waits for their end however it is left.
template <class Worker>
class Helpers {
 public:
  explicit Helpers(std::size_t most) : gathering_(most) { threads_.reserve(most); }
  ~Helpers() {
    gathering_.let_go();
    for (std::thread& thread : threads_) thread.join();
  }
  Helpers(const Helpers&) = delete;
  Helpers& operator=(const Helpers&) = delete;

  // As many as can be started: a machine may refuse, and then fewer will do. Each calls work(worker), `worker` being an
  // empty std::optional<Worker> of its own.
  template <class Work>
  void start(std::size_t wanted, const Work& work) {
    try {
      while (threads_.size() < wanted)
        threads_.emplace_back([this, &work, thread = threads_.size()] {
          std::optional<Worker> worker;
          work(worker);
          gathering_.report_and_wait(thread, worker ? &*worker : nullptr);
        });
    } catch (const std::exception&) {
    }
  }

  const std::vector<const Worker*>& results() { return gathering_.wait_for(threads_.size()); }

 private:
  Gathering<Worker> gathering_;
  std::vector<std::thread> threads_;
};

// Workers at whose work a single trial may be long look at the sign within it.
template <class Worker, class = void>
inline constexpr bool heeds_sign = false;
template <class Worker>
inline constexpr bool heeds_sign<Worker, std::void_t<decltype(&Worker::heed)>> = true;

// Runs trials first, first + 1, ..., first + count - 1 in blocks, which the threads take from one counter, each with a
// worker of its own. A worker has run(begin, end), merge(other) and is made by make_worker(); it owns all that it
// reads in a trial. Trials reach each worker in rising order. The merged worker is returned; since merging is adding,
// it does not depend on the number of threads. Blocks begin at first + multiples of `block`. What the crew's pause throws
// ends the work of all, and is thrown.
template <class MakeWorker>
auto run_blocks(std::uint64_t first, std::uint64_t count, const Crew& crew, const MakeWorker& make_worker,
                std::uint64_t block = default_block) {
  using Worker = decltype(make_worker());
  Blocks blocks(first, count, block);
  StopSign sign(crew.pause);
  const auto work = [&](std::optional<Worker>& worker) {
    try {
      worker.emplace(make_worker());
      if constexpr (heeds_sign<Worker>) worker->heed(sign);
      blocks.work_off(*worker, sign);
    } catch (...) {
      blocks.fail();
      sign.raise();
    }
  };
  std::optional<Worker> mine;
  {
    const std::uint64_t useful = std::max<std::uint64_t>(1, std::min<std::uint64_t>(crew.threads, count / block + 1));
    Helpers<Worker> helpers(static_cast<std::size_t>(useful - 1));
    helpers.start(static_cast<std::size_t>(useful - 1), work);
    work(mine);
    const std::vector<const Worker*>& others = helpers.results();
    blocks.rethrow_failure();
    for (const Worker* other : others)
      if (other) mine->merge(*other);
  }
  return std::move(*mine);
}

}  // namespace habanera
