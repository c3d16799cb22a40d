# Makes docs/articles from the vignettes, so that they can be read in the clone: Markdown with the output of a run, and
# figures beside it.
#
#   Rscript tools/make-articles.R [ARTICLE ...]
folder <- "docs/articles"
dir.create(folder, showWarnings = FALSE)

# The vignettes are HTML with chunks of R; their few tags as Markdown.
as_markdown <- function(lines) {
  from <- grep("<!--begin.rcode setup", lines, fixed = TRUE)
  lines <- lines[from:(grep("</body>", lines, fixed = TRUE) - 1)]
  lines <- lines[-seq_len(which(lines == "end.rcode-->")[1])]
  lines <- sub("^<!--begin.rcode +(.*)$", "```{r \\1}", lines)
  lines <- sub("^end.rcode-->$", "```\n", lines)
  lines <- gsub("<!--rinline +(.*?) +-->", "`r \\1`", lines, perl = TRUE)
  lines <- gsub("</?code>", "`", lines)
  lines <- gsub("</?em>", "*", lines)
  for (level in 1:3) lines <- gsub(sprintf("<h%d>(.*)</h%d>", level, level), paste0(strrep("#", level), " \\1\n"),
                                   lines)
  lines <- gsub("<p>", "", lines)
  lines <- gsub("</p>", "\n", lines)
  gsub("&gt;", ">", gsub("&lt;", "<", gsub("&amp;", "&", lines)))
}

knit_article <- function(vignette) {
  name <- sub("\\.Rhtml$", "", basename(vignette))
  unlink(Sys.glob(file.path(folder, "figures", paste0(name, "-*.png"))))
  source <- tempfile(fileext = ".Rmd")
  writeLines(c(
    "```{r setup, include=FALSE}",
    "knitr::opts_chunk$set(comment = '', dev = 'png', fig.width = 9, fig.height = 5, dpi = 90, fig.cap = '',",
    sprintf("  fig.path = '%s/', error = FALSE, message = FALSE)", normalizePath(folder)),
    "knitr::knit_hooks$set(plot = function(x, options) sprintf('![%s](figures/%s)\\n', options$fig.alt, basename(x)))",
    "library(habanera)", "options(width = 105)", sprintf("power <- read.csv('%s', check.names = FALSE)",
                                                        normalizePath("vignettes/power.csv")),
    sprintf("knitr::opts_chunk$set(fig.path = '%s/figures/%s-')", normalizePath(folder), name),
    "knitr::opts_knit$set(root.dir = dirname(demo_file('orchard.csv')))", "```", as_markdown(readLines(vignette))
  ), source)
  knitr::knit(source, file.path(folder, paste0(name, ".md")), quiet = TRUE, envir = new.env())
}

chosen <- commandArgs(TRUE)
vignettes <- if (length(chosen)) sprintf("vignettes/%s.Rhtml", chosen) else Sys.glob("vignettes/*.Rhtml")
took <- vapply(vignettes, function(vignette) system.time(knit_article(vignette))[["elapsed"]], 0)
print(round(took))
