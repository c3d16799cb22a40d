# Puts the articles as they are committed, with their figures, into the installed package, where vignette() and
# browseVignettes() find them: to run them anew at each installation would take longer than all the rest of it.
#
#   Rscript tools/install-articles.R
if (!requireNamespace("commonmark", quietly = TRUE)) {
  message("habanera: without commonmark the articles are not installed; they are in docs/articles.")
  quit()
}
folder <- file.path(system.file(package = "habanera"), "doc")
articles <- Sys.glob("docs/articles/*.md")
names <- tools::file_path_sans_ext(basename(articles))

title_of <- function(lines) sub("^# ", "", grep("^# ", lines, value = TRUE)[1])

as_page <- function(lines, title) {
  c("<!doctype html>", "<html lang=\"en\"><head><meta charset=\"utf-8\">",
    "<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">",
    sprintf("<title>%s</title>", title), "<style>", readLines("inst/report/page.css", encoding = "UTF-8"),
    # Output keeps its lines; the pictures are of the page's width.
    "pre { white-space: pre; overflow-x: auto; } p img { max-width: 100%; }", "</style></head><body><main>",
    commonmark::markdown_html(lines, extensions = TRUE), "</main></body></html>")
}

titles <- vapply(articles, function(article) title_of(readLines(article, encoding = "UTF-8")), "", USE.NAMES = FALSE)
unlink(folder, recursive = TRUE)
dir.create(folder)
invisible(file.copy("docs/articles/figures", folder, recursive = TRUE))
for (i in seq_along(articles)) {
  page <- as_page(readLines(articles[i], encoding = "UTF-8"), titles[i])
  writeLines(page, file.path(folder, paste0(names[i], ".html")), useBytes = TRUE)
}

# The index that R reads, in the form that it has after an installation from a built package.
none <- rep(list(character()), length(names))
index <- data.frame(File = paste0(names, ".Rhtml"), Title = titles, PDF = paste0(names, ".html"), R = "")
index$Depends <- none
index$Keywords <- none
saveRDS(index, file.path(dirname(folder), "Meta", "vignette.rds"))
