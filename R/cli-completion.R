# A script by which a shell completes commands and their options.

completion_script <- function(shell, commands) {
  if (length(shell) != 1 || !shell %in% c("bash", "zsh")) {
    refuse("--completion takes the shell, bash or zsh, as in: source <(habanera --completion bash)", "usage",
           call = NULL)
  }
  options <- vapply(commands, function(command) paste(c(option_names(command), "--help"), collapse = " "), "")
  cases <- sprintf("    %s) words=\"%s\" ;;", names(commands), options)
  c(
    sprintf("# Completes the commands and options of habanera in %s: source <(habanera --completion %s)", shell, shell),
    if (shell == "zsh") "autoload -U +X bashcompinit && bashcompinit",
    "_habanera() {", "  local words=", "  local now=\"${COMP_WORDS[COMP_CWORD]}\"",
    "  if [ \"$COMP_CWORD\" -eq 1 ]; then",
    sprintf("    words=\"%s --help --version --completion\"", paste(names(commands), collapse = " ")),
    "  else case \"${COMP_WORDS[1]}\" in", cases, "  esac; fi",
    "  COMPREPLY=($(compgen -W \"$words\" -- \"$now\"))",
    "}",
    # Where no option fits, files do.
    "complete -o default -F _habanera habanera"
  )
}
