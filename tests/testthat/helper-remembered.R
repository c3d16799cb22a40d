# f(u, k), each value worked out once.
remembered <- function(f) {
  known <- new.env()
  function(u, k) {
    key <- paste(u, k)
    if (is.null(known[[key]])) known[[key]] <- f(u, k)
    known[[key]]
  }
}
