#' Install the habanera command
#'
#' Puts a link to the command that comes with the package into a folder, so that a shell finds it.
#'
#' @param folder Folder for the link; `NULL`: `/usr/local/bin` where it can be written, else
#'   `~/.local/bin`.
#' @return The path of the link, invisibly.
#' @section Errors: `habanera_error_file` when the folder cannot be written, or holds another
#'   `habanera` that is no link.
#' @examples
#' install_command(tempdir())
#' @export
install_command <- function(folder = NULL) {
  if (is.null(folder)) folder <- command_folder()
  check_path(folder, rlang::current_env(), "folder")
  folder <- path.expand(folder)
  link <- file.path(folder, "habanera")
  if (!dir.exists(folder) && !suppressWarnings(dir.create(folder, recursive = TRUE))) {
    refuse(sprintf("Cannot make the folder %s.", quoted(folder)), "file")
  }
  is_link <- nzchar(Sys.readlink(link)) && !is.na(Sys.readlink(link))
  if (file.exists(link) && !is_link) {
    refuse(sprintf("%s exists and is no link of ours.", quoted(link)), "file")
  }
  if (is_link) unlink(link)
  target <- system.file("exec", "habanera", package = "habanera")
  if (!suppressWarnings(file.symlink(target, link))) {
    refuse(sprintf("Cannot write %s.", quoted(link)), "file")
  }
  inform_user(command_hint(folder, link))
  invisible(link)
}

command_folder <- function() {
  if (file.access("/usr/local/bin", 2) == 0) "/usr/local/bin" else "~/.local/bin"
}

command_hint <- function(folder, link) {
  on_path <- folder %in% strsplit(Sys.getenv("PATH"), ":", fixed = TRUE)[[1]]
  if (on_path) return(sprintf("The command is %s.", link))
  sprintf("The command is %s; add its folder to PATH to call it by name.", link)
}
