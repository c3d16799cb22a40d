#pragma once

#include <algorithm>
#include <atomic>
#include <cstdint>
#include <exception>
#include <mutex>
#include <thread>
#include <vector>

namespace habanera {

// Runs trials first, first + 1, ..., first + count - 1 in blocks, which the threads take from one
// counter, each with a worker of its own. A worker has run(begin, end), merge(other) and is made
// by make_worker(). Trials reach each worker in rising order. The merged worker is returned; since
// merging is adding, it does not depend on the number of threads.
template <class MakeWorker>
auto run_blocks(std::uint64_t first, std::uint64_t count, unsigned threads,
                MakeWorker&& make_worker) {
  constexpr std::uint64_t block = 2048;
  const std::uint64_t end = first + count;
  std::atomic<std::uint64_t> next{first};
  std::exception_ptr failure;
  std::mutex failure_lock;

  auto merged = make_worker();
  const auto work = [&](auto& worker) {
    try {
      for (;;) {
        const std::uint64_t begin = next.fetch_add(block);
        if (begin >= end) return;
        worker.run(begin, std::min(begin + block, end));
      }
    } catch (...) {
      const std::lock_guard<std::mutex> hold(failure_lock);
      if (!failure) failure = std::current_exception();
      next.store(end);
    }
  };

  const std::uint64_t blocks = count / block + 1;
  const std::uint64_t helpers = std::min<std::uint64_t>(threads < 1 ? 1 : threads, blocks) - 1;
  std::vector<decltype(merged)> workers;
  for (std::uint64_t i = 0; i < helpers; ++i) workers.push_back(make_worker());
  std::vector<std::thread> running;
  for (auto& worker : workers) running.emplace_back([&work, &worker] { work(worker); });
  work(merged);
  for (auto& thread : running) thread.join();
  if (failure) std::rethrow_exception(failure);
  for (const auto& worker : workers) merged.merge(worker);
  return merged;
}

}  // namespace habanera
