# What the page of a study shows, and in which order.

# What the page shows: a list of `run` with `title`, and `words`, in Markdown.
checked_layout <- function(report, study) {
  place <- list(study = study, path = "report")
  if (is.null(report)) return(lapply(run_names(study), function(run) list(run = run, title = sentence(run))))
  if (!is.list(report) || !is.null(names(report))) {
    refuse_at(place, "it is a list, each with \"run:\" or \"words:\", as in \"- run: how long\"")
  }
  lapply(report, function(part) {
    if (rlang::is_string(part)) part <- list(run = part)
    if (!is.list(part) || is.null(names(part))) refuse_at(place, "each is \"run:\" or \"words:\"")
    refuse_keys(names(part), c("run", "title", "words"), "what a report shows", place)
    if (!is.null(part$words)) return(list(words = checked_markdown(part$words, inside(place, "words"))))
    refuse_unknown_run(part$run, study, inside(place, "run"))
    if (!is.null(part$title) && !rlang::is_string(part$title)) refuse_at(inside(place, "title"), "it must be a text")
    list(run = part$run, title = if (is.null(part$title)) sentence(part$run) else part$title)
  })
}

# The page is to be whole without a network, and to run no script but its own.
checked_markdown <- function(words, place) {
  if (!rlang::is_string(words)) refuse_at(place, sprintf("it must be a text in Markdown, not %s", said(words)))
  tree <- commonmark::markdown_xml(words)
  if (grepl("<html_(block|inline)", tree)) refuse_at(place, "HTML is not taken in it; write Markdown, and &lt; for <")
  if (grepl("<image ", tree)) refuse_at(place, "pictures are not taken in it")
  words
}
