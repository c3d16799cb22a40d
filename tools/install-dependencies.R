# Installs what the project needs and this machine lacks, and says what. As root on Debian it takes
# the prebuilt packages where their versions suffice and CRAN for the rest; otherwise CRAN, into the
# user library. With nothing missing it says nothing and needs no network.
#
#   Rscript tools/install-dependencies.R [lint]

purposes <- commandArgs(TRUE)
is_root <- identical(Sys.info()[["effective_user"]], "root") && nzchar(Sys.which("apt-get"))

needed_packages <- function() {
  fields <- read.dcf("DESCRIPTION", c("Imports", "Suggests"))
  entries <- trimws(unlist(strsplit(fields, ",")))
  version <- ifelse(grepl("\\(", entries), sub("^.*>= *([0-9.]+).*$", "\\1", entries), "0")
  names <- sub("[ (\n].*$", "", entries)
  if ("lint" %in% purposes) {
    names <- c(names, "lintr")
    version <- c(version, "0")
  }
  keep <- !is.na(names) & !names %in% c("parallel", "stats", "tools", "utils", if (!can_build_svglite()) "svglite")
  data.frame(name = names[keep], version = version[keep])
}

# Its libraries come with Debian's build of it; without root they must be there already. Figures fall
# back to R's own device.
can_build_svglite <- function() {
  libraries <- "fontconfig freetype2 harfbuzz fribidi libpng libjpeg libtiff-4"
  is_root || nzchar(system.file(package = "svglite")) ||
    system(paste("pkg-config --exists", libraries), ignore.stderr = TRUE) == 0
}

lacking <- function(packages) {
  present <- mapply(function(name, version) {
    nzchar(system.file(package = name)) && utils::packageVersion(name) >= version
  }, packages$name, packages$version)
  packages[!present, , drop = FALSE]
}

say <- function(...) message("habanera: ", ...)

run <- function(...) {
  status <- system2(..., stdout = FALSE)
  if (status != 0) say("this failed, going on: ", paste(unlist(list(...)), collapse = " "))
  status == 0
}

apt_install <- function(packages) {
  say("installing Debian packages: ", paste(packages, collapse = ", "))
  Sys.setenv(DEBIAN_FRONTEND = "noninteractive")
  run("apt-get", c("install", "-y", "-qq", "--no-install-recommends", packages))
}

# Debian's build of an R package, when it is new enough.
debian_builds <- function(packages) {
  names <- paste0("r-cran-", tolower(packages$name))
  said <- suppressWarnings(system2("apt-cache", c("policy", names), stdout = TRUE))
  candidate <- vapply(names, function(name) {
    at <- match(paste0(name, ":"), said)
    if (is.na(at)) return("0")
    version <- sub("^ *Candidate: *", "", said[at + 2])
    sub("^[0-9]+:", "", gsub("[+~-].*$", "", version))
  }, "")
  # A version that is not plain numbers, or none at all, does not suffice.
  candidate <- package_version(candidate, strict = FALSE)
  names[!is.na(candidate) & candidate > "0" & candidate >= packages$version]
}

use_user_library <- function() {
  library <- Sys.getenv("R_LIBS_USER")
  if (file.access(.libPaths()[1], 2) == 0) return(invisible())
  dir.create(library, recursive = TRUE, showWarnings = FALSE)
  .libPaths(c(library, .libPaths()))
}

cran_install <- function(packages) {
  use_user_library()
  say("installing from CRAN into ", .libPaths()[1], ": ", paste(packages, collapse = ", "))
  if (identical(unname(getOption("repos")["CRAN"]), "@CRAN@")) {
    utils::chooseCRANmirror(graphics = FALSE, ind = 1, local.only = TRUE)
  }
  if ("testthat" %in% packages && !nzchar(system.file(package = "fs"))) install_fs()
  cores <- max(1, parallel::detectCores(), na.rm = TRUE)
  # What is suggested must not pull in its own suggestions.
  utils::install.packages(packages, Ncpus = cores, quiet = TRUE,
                          dependencies = c("Depends", "Imports", "LinkingTo"))
}

# The header of the core's tests; without root it is taken out of Debian's package.
doctest_header <- c("/usr/include/doctest/doctest.h", "build/doctest/usr/include/doctest/doctest.h")

# Downloads Debian packages and unpacks them into a folder, for those who cannot install them.
unpack_debian <- function(packages, folder) {
  say("unpacking Debian's ", paste(packages, collapse = " and "), " into ", folder)
  state <- file.path(normalizePath("."), "build", "apt")
  for (part in c("lists/partial", "cache", "packages")) {
    dir.create(file.path(state, part), recursive = TRUE, showWarnings = FALSE)
  }
  private <- sprintf("apt-get -o Dir::State::lists=%s/lists -o Dir::Cache=%s/cache", state, state)
  names <- paste(packages, collapse = " ")
  # First with the lists that the machine has, then with fresh ones of our own.
  commands <- c(paste("apt-get download", names),
                sprintf("%s update -qq && %s download %s", private, private, names))
  for (command in commands) {
    done <- system(sprintf("cd %s/packages && (%s) >/dev/null 2>&1", state, command))
    if (done == 0) break
  }
  for (package in packages) {
    file <- Sys.glob(sprintf("%s/packages/%s_*.deb", state, package))
    if (!length(file) || system2("dpkg-deb", c("-x", shQuote(file[1]), shQuote(folder))) != 0) {
      say("could not get it; ask for the Debian package ", package)
      return(FALSE)
    }
  }
  TRUE
}

# testthat needs fs, and fs needs libuv; without root it is linked with Debian's, kept among the
# user's data, where it is found again through the path that LD_RUN_PATH leaves in the library.
install_fs <- function() {
  has_libuv <- system("pkg-config --exists libuv", ignore.stderr = TRUE) == 0
  folder <- file.path(tools::R_user_dir("habanera", "data"), "libuv")
  dir.create(folder, recursive = TRUE, showWarnings = FALSE)
  if (has_libuv || !unpack_debian(c("libuv1-dev", "libuv1"), folder)) return(invisible())
  library <- dirname(Sys.glob(file.path(folder, "usr", "lib", "*", "libuv.so")))
  Sys.setenv(CPATH = file.path(folder, "usr", "include"), LIBRARY_PATH = library, LD_RUN_PATH = library)
  utils::install.packages("fs", quiet = TRUE)
  Sys.unsetenv(c("CPATH", "LIBRARY_PATH", "LD_RUN_PATH"))
}

missing <- lacking(needed_packages())
no_compiler <- !nzchar(Sys.which("g++"))
no_doctest <- !any(file.exists(doctest_header))
# Pages are looked at in a browser by the tests, which pass them over where there is none.
no_browser <- !any(nzchar(Sys.which(c("chromium", "chromium-browser", "google-chrome"))))
no_paper <- !nzchar(Sys.which("pdftotext"))
# The site of the documentation is made, and tested, where its generator is.
no_generator <- !nzchar(Sys.which("mkdocs"))
# A library of another language holds the schema of studies to what it should be.
has_validator <- function(python) system(paste(python, "-c 'import jsonschema' 2>/dev/null")) == 0
no_validator <- !has_validator("python3") && !has_validator("/usr/bin/python3")
wanted <- c(if (no_compiler) c("g++", "make"), if (no_doctest) "doctest-dev",
            if (no_browser) "chromium", if (no_paper) "poppler-utils", if (no_generator) "mkdocs",
            if (no_validator) "python3-jsonschema")
if (is_root && (nrow(missing) || length(wanted))) {
  run("apt-get", c("update", "-qq"))
  wanted <- c(wanted, if (nrow(missing)) debian_builds(missing))
  if (length(wanted)) apt_install(wanted)
  missing <- lacking(needed_packages())
}
if (!nzchar(Sys.which("g++"))) {
  say("a C++ compiler is needed: install the Debian package g++ (as root).")
  quit(status = 1)
}
if (!any(file.exists(doctest_header))) invisible(unpack_debian("doctest-dev", "build/doctest"))
if (nrow(missing)) {
  cran_install(missing$name)
  missing <- lacking(needed_packages())
}
required <- trimws(sub("[ (\n].*$", "", trimws(strsplit(read.dcf("DESCRIPTION", "Imports"), ",")[[1]])))
if (any(missing$name %in% required)) {
  say("still missing: ", paste(missing$name, collapse = ", "))
  quit(status = 1)
}
if (nrow(missing)) say("going on without the optional: ", paste(missing$name, collapse = ", "))
