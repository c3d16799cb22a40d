#pragma once

#include <algorithm>
#include <atomic>
#include <cstdint>
#include <exception>
#include <memory>
#include <mutex>
#include <thread>
#include <utility>
#include <vector>

namespace habanera {

inline constexpr std::uint64_t default_block = 2048;

// Runs trials first, first + 1, ..., first + count - 1 in blocks, which the threads take from one
// counter, each with a worker of its own. A worker has run(begin, end), merge(other) and is made
// by make_worker(). Trials reach each worker in rising order. The merged worker is returned; since
// merging is adding, it does not depend on the number of threads. Blocks begin at first + multiples of
// `block`.
template <class MakeWorker>
auto run_blocks(std::uint64_t first, std::uint64_t count, unsigned threads,
                MakeWorker&& make_worker, std::uint64_t block = default_block) {
  const std::uint64_t end = first + count;
  std::atomic<std::uint64_t> next{first};
  std::exception_ptr failure;
  std::mutex failure_lock;

  using Worker = decltype(make_worker());
  const auto work = [&](std::unique_ptr<Worker>& worker) {
    try {
      // Made where it works, so that two threads never write into one line of memory.
      worker = std::make_unique<Worker>(make_worker());
      for (;;) {
        const std::uint64_t begin = next.fetch_add(block);
        if (begin >= end) return;
        worker->run(begin, std::min(begin + block, end));
      }
    } catch (...) {
      const std::lock_guard<std::mutex> hold(failure_lock);
      if (!failure) failure = std::current_exception();
      next.store(end);
    }
  };

  const std::uint64_t blocks = count / block + 1;
  const auto used = static_cast<std::size_t>(std::min<std::uint64_t>(threads < 1 ? 1 : threads, blocks));
  std::vector<std::unique_ptr<Worker>> workers(used);
  std::vector<std::thread> running;
  for (std::size_t i = 1; i < used; ++i) running.emplace_back([&, i] { work(workers[i]); });
  work(workers[0]);
  for (auto& thread : running) thread.join();
  if (failure) std::rethrow_exception(failure);
  for (std::size_t i = 1; i < used; ++i) workers[0]->merge(*workers[i]);
  return std::move(*workers[0]);
}

}  // namespace habanera
