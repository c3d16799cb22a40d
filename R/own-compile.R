# Compiles games of one's own in C++, once for each content: what was compiled before is only loaded. What has a game
# played is compiled at once and by itself, what works it out when it is asked for.

# The address of the function that has the game played (see inst/templates/plays.cpp).
game_plays <- function(file, code, call = NULL) {
  compiled_part(file, code, "plays", call, function(folder) {
    library <- dyn.load(file.path(folder, paste0("game", .Platform$dynlib.ext)))
    getNativeSymbolInfo("habanera_plays", library)$address
  })
}

# The functions that work it out (see inst/templates/worked_out.cpp).
game_worked_out <- function(file, code, call = NULL) {
  compiled_part(file, code, "worked_out", call, function(folder) {
    found <- new.env()
    Rcpp::sourceCpp(game_source(folder), env = found, cacheDir = folder)
    found
  })
}

compiled <- new.env()

# What an R of its own runs in the folder to compile each part, and what is told of it.
compiling <- list(
  plays = list(run = "status <- tools::Rcmd(c(\"SHLIB\", \"game.cpp\")); quit(status = status)",
               words = "Compiling %s, once: it takes some seconds."),
  worked_out = list(run = "Rcpp::sourceCpp(\"game.cpp\", env = new.env(), cacheDir = getwd())",
                    words = "Compiling %s to be looked at and worked out, once: it takes about half a minute.")
)

# `open` makes of the folder in which it lies what is called.
compiled_part <- function(file, code, part, call, open) {
  key <- rlang::hash(list(code, core_content(), part))
  if (is.null(compiled[[key]])) compiled[[key]] <- open(compiled_folder(file, code, key, part, call))
  compiled[[key]]
}

# What the core's headers are, so that a game is compiled anew where they have changed.
core_content <- function() {
  if (is.null(compiled$core)) {
    headers <- list.files(system.file("include", package = "habanera"), recursive = TRUE, full.names = TRUE)
    bindings <- lapply(names(compiling), function(part) readLines(binding_file(part)))
    compiled$core <- rlang::hash(list(unname(tools::md5sum(headers)), bindings, R.version.string))
  }
  compiled$core
}

binding_file <- function(part) system.file("templates", paste0(part, ".cpp"), package = "habanera")

# What is compiled lies in a folder of its own, and a file named by the content says in which, and what is in it by its
# digest: it is written last, so that a compilation that was broken off, or another at the same time, does no harm, and
# a library that was damaged or changed is not loaded.
compiled_folder <- function(file, code, key, part, call) {
  kept <- kept_folder()
  known <- file.path(kept, key)
  folder <- sound_folder(known)
  if (!is.null(folder)) return(folder)
  words <- if (file.exists(known)) "What was compiled of %s was damaged or changed: it is compiled anew." else
    compiling[[part]]$words
  inform_user(sprintf(words, basename(file)))
  folder <- tempfile(paste0(substr(key, 1, 8), "-"), kept)
  dir.create(folder)
  compiled <- FALSE
  on.exit(if (!compiled) unlink(folder, recursive = TRUE))
  write_lines_whole(bound_code(file, code, key, part), game_source(folder), call)
  compile_aside(file, code, folder, compiling[[part]]$run, call)
  write_lines_whole(c(folder, compiled_digest(folder)), known, call)
  compiled <- TRUE
  folder
}

# Where a game lies that was compiled before; NULL where it is not all that was written then.
sound_folder <- function(known) {
  said <- if (file.exists(known)) readLines(known, warn = FALSE)
  if (length(said) == 2 && dir.exists(said[1]) && identical(compiled_digest(said[1]), said[2])) said[1]
}

# Of the code and the library.
compiled_digest <- function(folder) {
  files <- sort(list.files(folder, "[.](cpp|so|dll|dylib)$", recursive = TRUE))
  rlang::hash(list(files, unname(tools::md5sum(file.path(folder, files)))))
}

# The user's folder for what can be made again; where it cannot be written, the session's.
kept_folder <- function() {
  folder <- tools::R_user_dir("habanera", "cache")
  made <- dir.exists(folder) || suppressWarnings(dir.create(folder, recursive = TRUE))
  if (made && file.access(folder, 2) == 0) folder else tempdir()
}

game_source <- function(folder) file.path(folder, "game.cpp")

# What the compiler calls the file.
named_in_code <- function(file) gsub("[^A-Za-z0-9._-]", "_", basename(file))

bound_code <- function(file, code, key, part) {
  template <- sub("KEY", key, readLines(binding_file(part)), fixed = TRUE)
  template <- gsub("FILE", named_in_code(file), template, fixed = TRUE)
  at <- which(template == "CODE")
  c(template[seq_len(at - 1)], code, template[-seq_len(at)])
}

# By an R of its own, so that what the compiler says can be read.
compile_aside <- function(file, code, folder, run, call) {
  program <- sprintf("setwd(%s); %s", deparse(folder), run)
  said <- suppressWarnings(system2(
    file.path(R.home("bin"), "Rscript"), c("--no-init-file", "-e", shQuote(program)), stdout = TRUE, stderr = TRUE,
    env = compiling_settings()
  ))
  if (is.null(attr(said, "status"))) return(invisible())
  if (any(grepl("No space left on device", said, fixed = TRUE))) {
    refuse(sprintf("%s could not be compiled: there is no space left in %s.", basename(file), folder), "file", call)
  }
  refuse(compiler_words(said, file, code), "function", call)
}

# Packages are found where they are here, and a user's own settings of the compiler win.
compiling_settings <- function() {
  headers <- vapply(c("habanera", "Rcpp"), function(package) system.file("include", package = package), "")
  settings <- c(R_LIBS = paste(.libPaths(), collapse = .Platform$path.sep), USE_CXX17 = "1",
                PKG_CPPFLAGS = paste0("-I", shQuote(headers), collapse = " "),
                if (!length(tools::makevars_user())) {
                  c(R_MAKEVARS_USER = system.file("templates", "Makevars", package = "habanera"))
                })
  paste0(names(settings), "=", shQuote(settings))
}

# The first error of the compiler's, with the line of the user's file that it is about: of an error within the core,
# the line that led there.
compiler_words <- function(said, file, code) {
  said <- gsub("\\bGame_[0-9a-f]{32}\\b", "Game", said)
  name <- named_in_code(file)
  place <- function(line) as.numeric(sub(sprintf("^%s:([0-9]+):.*$", name), "\\1", line))
  mine <- startsWith(said, paste0(name, ":"))
  error <- grep("error: ", said, fixed = TRUE)
  if (!length(error)) {
    return(c(sprintf("%s could not be compiled.", basename(file)), i = utils::tail(said[nzchar(trimws(said))], 3)))
  }
  first <- error[1]
  what <- sub("^.*?error: (static assertion failed: )?", "", said[first], perl = TRUE)
  if (!grepl("[.?!]$", what)) what <- paste0(what, ".")
  before <- utils::tail(which(mine[seq_len(first)]), 1)
  line <- if (length(before) && grepl(":[0-9]+:", said[before])) place(said[before]) else NA
  if (is.na(line)) return(sprintf("%s does not compile: %s", basename(file), what))
  c(sprintf("%s does not compile. Line %d: %s", basename(file), line, what), i = trimws(code[line]))
}
