# Makes the site of the documentation in build/site: README, articles, the help of functions by topic, the help of
# commands, pictures, search. Needs the installed package and the generator mkdocs, and no network, then or later.
#
#   Rscript tools/make-site.R [FOLDER]
site <- c(commandArgs(TRUE), "build/site")[1]
source_folder <- paste0(site, "-source")

# Functions by the room that they are written in, as a reader would look for them.
topics <- list(
  "Decks and cards" = "cards", "Shuffles" = "shuffle", "Draws" = "draw", "Questions about a hand" = "question",
  "What hands are worth" = "hand", "Games" = c("game", "war", "pairs", "high_card"),
  "Rules compared, varied, tuned" = "ask", "Players" = "player", "Seats that bet" = "betting",
  "Tables of a house" = c("blackjack", "baccarat", "video_poker", "narrows", "rule"), "Counting" = "counting",
  "Money" = "bank", "Games of one's own" = "own", "Runs and results" = c("run", "stat", "answer"),
  "Figures" = "plot", "Reports and the demo" = c("report", "study", "cli"), "The package" = "util"
)

in_source <- function(...) file.path(source_folder, ...)

# Pages as they are in the clone, with docs/ for the site's root.
copy_pages <- function() {
  dir.create(source_folder, recursive = TRUE)
  dir.create(site)
  file.copy(c("docs/articles", "docs/screenshots"), source_folder, recursive = TRUE)
  file.copy(c("docs/design.md", "docs/cpp.md", "docs/rooms.svg", "NEWS.md"), source_folder)
  rerooted <- function(from, to) {
    lines <- gsub("](docs/", "](", readLines(from, encoding = "UTF-8"), fixed = TRUE)
    writeLines(gsub("](../", "](", lines, fixed = TRUE), in_source(to), useBytes = TRUE)
  }
  rerooted("README.md", "index.md")
  rerooted("CONTRIBUTING.md", "CONTRIBUTING.md")
  rerooted("docs/design.md", "design.md")
  writeLines(sub("](README.md)", "](index.md)", readLines(in_source("CONTRIBUTING.md")), fixed = TRUE),
             in_source("CONTRIBUTING.md"))
}

# A help page: what R's own converter makes of it, between headings that the search and the contents know.
help_topic <- function(file) {
  rd <- tools::parse_Rd(file)
  text <- function(tag, of = "") {
    part <- Filter(function(piece) attr(piece, "Rd_tag") == tag && any(grepl(of, unlist(piece), fixed = TRUE)), rd)
    gsub("\\s+", " ", trimws(paste(unlist(part[[1]]), collapse = "")))
  }
  all <- function(tag) unlist(Filter(function(piece) attr(piece, "Rd_tag") == tag, rd))
  list(rd = rd, name = sub("\\.Rd$", "", basename(file)), title = text("\\title"), aliases = all("\\alias"),
       internal = "internal" %in% all("\\keyword"),
       room = sub("^.*R/([a-z_]+)-.*$", "\\1", text("COMMENT", of = "R/")))
}

write_help_topic <- function(topic, links, of_others) {
  html <- tempfile(fileext = ".html")
  tools::Rd2HTML(topic$rd, html, package = "habanera", Links = links, Links2 = of_others, dynamic = FALSE)
  lines <- readLines(html, encoding = "UTF-8")
  body <- lines[(grep("<h2", lines)[1] + 1):(grep("<hr", lines)[length(grep("<hr", lines))] - 1)]
  body <- body[!grepl("^<h2", body)]
  # Links to pages of other packages lead nowhere here.
  body <- gsub("<a href=\"\\.\\./\\.\\./[^\"]*\">(.*?)</a>", "\\1", body, perl = TRUE)
  writeLines(c(sprintf("# %s", topic$title), "", "<div>", body, "</div>"),
             in_source("reference", paste0(topic$name, ".md")), useBytes = TRUE)
}

reference <- function() {
  dir.create(in_source("reference"))
  all <- lapply(Sys.glob("man/*.Rd"), help_topic)
  links <- unlist(lapply(all, function(topic) {
    stats::setNames(rep(paste0(topic$name, ".html"), length(topic$aliases)), topic$aliases)
  }))
  unplaced <- setdiff(vapply(all, `[[`, "", "room"), unlist(topics))
  if (length(unplaced)) stop("These rooms have help and no topic: ", toString(unplaced))
  lapply(all, write_help_topic, links = links, of_others = tools::findHTMLlinks(level = 1))
  pages <- lapply(topics, function(rooms) Filter(function(topic) topic$room %in% rooms && !topic$internal, all))
  list_of <- function(title) {
    entries <- vapply(pages[[title]], function(topic) sprintf("- [%s](%s.md): %s", topic$name, topic$name, topic$title),
                      "")
    c(paste("##", title), "", sort(entries), "")
  }
  writeLines(c("# Functions by topic", "", unlist(lapply(names(pages), list_of))), in_source("reference", "index.md"))
  lapply(pages, function(topics) {
    names <- vapply(topics, `[[`, "", "name")
    lapply(unname(sort(names)), function(name) stats::setNames(list(paste0("reference/", name, ".md")), name))
  })
}

command_page <- function() {
  help <- function(command) {
    utils::capture.output(habanera:::run_command(c(command, "--help")))
  }
  sections <- lapply(names(habanera:::command_makers()), function(command) {
    c(paste("##", command), "", "```text", help(command), "```", "")
  })
  writeLines(c("# The command", "", "```text", utils::capture.output(habanera:::run_command("--help")), "```", "",
               unlist(sections)), in_source("command.md"), useBytes = TRUE)
}

# In the order in which the README comes to speak of them.
article_pages <- function() {
  readme <- paste(readLines("README.md"), collapse = " ")
  files <- unique(sub("^docs/", "", unlist(regmatches(readme, gregexpr("docs/articles/[a-z-]+\\.md", readme)))))
  unlisted <- setdiff(basename(Sys.glob("docs/articles/*.md")), basename(files))
  if (length(unlisted)) stop("The README does not link these articles: ", toString(unlisted))
  titles <- vapply(file.path("docs", files), function(file) {
    sub("^# ", "", grep("^# ", readLines(file), value = TRUE)[1])
  }, "")
  unname(Map(function(title, file) stats::setNames(list(file), title), unname(titles), files))
}

settings <- function(functions) {
  sections <- c(list(list("All of them" = "reference/index.md")), unname(Map(function(title, pages) {
    stats::setNames(list(pages), title)
  }, names(functions), functions)))
  list(
    site_name = "Habanera", docs_dir = normalizePath(source_folder), site_dir = normalizePath(site),
    use_directory_urls = FALSE,
    theme = list(name = "readthedocs", custom_dir = normalizePath("tools/site/theme"), highlightjs = FALSE,
                 navigation_depth = 3L, titles_only = TRUE),
    plugins = list("search"), extra_css = list("site.css"), extra_javascript = list("from-disk.js"), strict = TRUE,
    nav = list(list(Start = "index.md"), list(Articles = article_pages()), list(Functions = sections),
               list("The command" = "command.md"), list(News = "NEWS.md"),
               list("How it is built" = list(list(Design = "design.md"), list("The core in C++" = "cpp.md"),
                                             list(Contributing = "CONTRIBUTING.md"))))
  )
}

# Debian keeps the libraries of the theme under the names of other versions than its pages ask for, and leaves out what
# old browsers need: pages ask for what is there.
mend_scripts <- function() {
  there <- list.files(file.path(site, "js"))
  mended <- function(line) {
    script <- sub("^.*js/([^/\"]+)\".*$", "\\1", line)
    alike <- there[startsWith(there, sub("-.*$", "", script))]
    if (script %in% there) line else if (length(alike)) sub(script, alike[1], line, fixed = TRUE) else ""
  }
  for (page in list.files(site, "\\.html$", recursive = TRUE, full.names = TRUE)) {
    lines <- readLines(page, encoding = "UTF-8", warn = FALSE)
    asks <- grep("<script src=\"[^\"]*js/[^/\"]+\"", lines)
    lines[asks] <- vapply(lines[asks], mended, "")
    # The script of the menu takes every heading for the page that is read.
    lines <- sub("(<a class=\"reference internal[^\"]*\") href=\"#\">", "\\1>", lines)
    writeLines(lines, page, useBytes = TRUE)
  }
}

# The same index as a script, for who opens the pages from disk.
write_index_script <- function() {
  index <- readLines(file.path(site, "search", "search_index.json"), warn = FALSE, encoding = "UTF-8")
  writeLines(c("window.searchIndex =", index, ";"), file.path(site, "search", "search_index.js"), useBytes = TRUE)
}

if (!nzchar(Sys.which("mkdocs"))) stop("The generator mkdocs is missing: install the Debian package mkdocs.")
unlink(c(source_folder, site), recursive = TRUE)
copy_pages()
functions <- reference()
command_page()
invisible(file.copy(c("tools/site/from-disk.js", "tools/site/site.css"), source_folder))
settings_file <- paste0(site, ".yml")
writeLines(yaml::as.yaml(settings(functions)), settings_file)
status <- system2("mkdocs", c("build", "--quiet", "--config-file", settings_file))
if (status != 0) stop("The site could not be made.")
mend_scripts()
write_index_script()
message("habanera: the site is in ", site)
