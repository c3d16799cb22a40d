# The site of the documentation, and the articles that are installed: whole, and without any network.

clone <- function(...) test_path("..", "..", ...)

made_site <- function() {
  skip_if_not(file.exists(clone("tools", "make-site.R")), "not in a clone")
  skip_if(!nzchar(Sys.which("mkdocs")), "no generator of sites")
  site <- file.path(withr::local_tempdir(.local_envir = parent.frame()), "site")
  withr::local_dir(clone())
  made <- processx::run("Rscript", c("tools/make-site.R", site), error_on_status = FALSE)
  expect_equal(made$status, 0, info = made$stderr)
  site
}

# What a browser without network makes of a page of the site.
seen_from_disk <- function(page) {
  profile <- withr::local_tempdir()
  processx::run(browser(), c("--headless", "--no-sandbox", "--disable-gpu", "--disable-background-networking",
                             "--enable-logging=stderr", "--proxy-server=127.0.0.1:9", "--virtual-time-budget=20000",
                             paste0("--user-data-dir=", profile), "--dump-dom", paste0("file://", page)), timeout = 120)
}

test_that("the site has every article, function and command, and takes nothing from elsewhere", {
  site <- made_site()
  pages <- list.files(site, "\\.html$", recursive = TRUE)
  articles <- sub("md$", "html", basename(Sys.glob(clone("docs", "articles", "*.md"))))
  expect_setequal(sub("^articles/", "", grep("^articles/", pages, value = TRUE)), articles)
  help <- sub("Rd$", "html", basename(Sys.glob(clone("man", "*.Rd"))))
  expect_setequal(sub("^reference/", "", grep("^reference/", pages, value = TRUE)), c("index.html", help))
  commands <- readLines(file.path(site, "command.html"), encoding = "UTF-8")
  for (name in names(command_makers())) expect_true(any(grepl(sprintf("<h2 id=\"%s\"", name), commands)), info = name)

  text <- unlist(lapply(file.path(site, pages), readLines, warn = FALSE, encoding = "UTF-8"))
  expect_false(any(grepl("(src|<link[^>]*href)=\"(https?:)?//", text)))
  # Links within the site lead somewhere.
  for (page in grep("^(index|reference/index|reference/draws)", pages, value = TRUE)) {
    lines <- readLines(file.path(site, page), encoding = "UTF-8")
    links <- unique(unlist(regmatches(lines, gregexpr("(?<=href=\"|src=\")[^\"#:]+(?=[#\"])", lines, perl = TRUE))))
    expect_gt(length(links), 20)
    expect_equal(links[!file.exists(file.path(site, dirname(page), links))], character(), info = page)
  }

  skip_if(is.na(browser()), "no browser")
  index <- seen_from_disk(file.path(site, "index.html"))
  expect_match(index$stdout, "What you have or want, and what to call")
  searched <- seen_from_disk(paste0(file.path(site, "search.html"), "?q=transpositions"))
  expect_match(searched$stdout, "<article><h3><a href=\"[^\"]*reference/procedures.html")
  expect_no_match(seen_from_disk(paste0(file.path(site, "search.html"), "?q=zzyzx"))$stdout, "<article>")
  for (page in list(index, searched)) {
    expect_equal(grep("CONSOLE.*(Error|refused|blocked)", strsplit(page$stderr, "\n")[[1]], value = TRUE), character())
  }
})

test_that("the articles are installed, listed, and open with their figures", {
  listed <- as.data.frame(utils::vignette(package = "habanera")$results)
  skip_if_not(file.exists(clone("docs", "articles")), "not in a clone")
  articles <- Sys.glob(clone("docs", "articles", "*.md"))
  expect_setequal(listed$Item, tools::file_path_sans_ext(basename(articles)))
  expect_match(listed$Title[listed$Item == "shuffles"], "^Is this shuffle any good\\?")
  page <- system.file("doc", utils::vignette("shuffles", package = "habanera")$PDF, package = "habanera")
  lines <- readLines(page, encoding = "UTF-8")
  figures <- unlist(regmatches(lines, gregexpr("(?<=src=\")[^\"]+", lines, perl = TRUE)))
  expect_gt(length(figures), 1)
  expect_true(all(file.exists(file.path(dirname(page), figures))))
})
