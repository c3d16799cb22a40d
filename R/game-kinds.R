# The kinds of games there are: each game's file has a function kind_of_NAME(), by which it is found. A game tells its
# kind by name, so that results hold data only; one of one's own carries it.

kind_makers <- function() ls(topenv(), pattern = "^kind_of_")
game_names <- function() c(sub("^kind_of_", "", kind_makers()), names(added_kinds$all))
game_kinds <- function() lapply(rlang::set_names(game_names()), game_kind)

# Kinds that are not of this package; and those that were made before, since each is made once.
added_kinds <- new.env()
made_kinds <- new.env()

game_kind <- function(name, call = NULL) {
  known <- Filter(Negate(is.null), c(added_kinds$all[name], made_kinds$all[name]))
  if (length(known)) return(known[[1]])
  if (!name %in% game_names()) {
    refuse(sprintf("There is no game %s%s Games: %s.", quoted(name), did_you_mean(name, game_names()),
                   join_words(game_names())), call = call)
  }
  made_kinds$all[[name]] <- get(paste0("kind_of_", name), topenv())()
}

# A game that its user wrote, in R or in C++.
is_of_ones_own <- function(kind) !is.null(kind$can$in_r) || !is.null(kind$can$compiled)

kind_of <- function(game) if (is.null(game$own)) game_kind(game$game) else game$own
