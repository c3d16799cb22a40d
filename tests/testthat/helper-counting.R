# Of tests of counting.

usual_bets <- c("0" = 1, "1" = 2, "2" = 4, "3" = 8)
level_one_tags <- function(codes) {
  value <- sub("[SHDC]$", "", codes)
  ifelse(value %in% c("10", "J", "Q", "K", "A"), -1, ifelse(value %in% 2:6, 1, 0))
}
seat_counting <- function(...) player_counting(system = "level one balanced", ...)
