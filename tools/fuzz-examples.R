# Examples gone wrong: every call of an exported function in the examples of the help, and every example of a command,
# with an argument left out, of another type, too long, or letters changed; and every shipped file, changed, to whoever
# reads it. Read by fuzz.R, which has mangle(), one() and noted().

odd_values <- list(NULL, NA, NaN, -1, 0, 1.5, 2^53, 1e300, Inf, -Inf, "", " ", "x", "\xff", "1:Inf", "0x1F",
                   c("a", "b"), c(1, NA),
                   1:3, 100:1, TRUE, list(), list(1, "a"), character(), numeric(), mean, quote(x + y), new.env(),
                   factor("a"),
                   as.Date("2026-01-01"), 1i, raw(2), data.frame(), data.frame(a = 1, a = 2, check.names = FALSE),
                   matrix(1:4, 2), strrep("x", 1e5), rep("AS", 1e4), deck_standard(), deck_numbered(3),
                   draws(deck_standard(), 5),
                   game_war(), player_basic(), shuffle_riffle(), simulate(draws(deck_numbered(3), 1), 10, seed = 1),
                   c(a = 1), c(AS = 1, AS = 2), "nowhere.csv", "/dev/null", "-1", ~ rank == "A")

# Of each topic its expressions, in an environment where all of them ran once.
example_topics <- function() {
  topics <- Filter(length, lapply(tools::Rd_db("habanera"), function(page) {
    lines <- utils::capture.output(tools::Rd2ex(page))
    if (length(lines)) as.list(parse(text = grep("^###", lines, value = TRUE, invert = TRUE)))
  }))
  lapply(topics, function(expressions) {
    where <- new.env(parent = globalenv())
    sound <- Filter(function(expr) {
      took <- system.time(fine <- tryCatch({
        utils::capture.output(suppressMessages(suppressWarnings(eval(expr, where))))
        TRUE
      }, error = function(cnd) FALSE))[["elapsed"]]
      fine && took < 1
    }, expressions)
    list(expressions = sound, where = where)
  })
}

exported <- getNamespaceExports("habanera")

# Where calls of exported functions stand in an expression: places as in expr[[place]].
places_of_calls <- function(expr, at = integer()) {
  if (!is.call(expr)) return(list())
  inner <- unlist(lapply(seq_along(expr), function(i) {
    if (identical(expr[[i]], rlang::missing_arg())) list() else places_of_calls(expr[[i]], c(at, i))
  }), recursive = FALSE)
  called <- is.name(expr[[1]]) && as.character(expr[[1]]) %in% exported && length(expr) > 1
  c(if (called) list(at), inner)
}

# As R matches its arguments, so that one too many is not what is tried.
matched <- function(call) match.call(get(as.character(call[[1]]), asNamespace("habanera")), call, expand.dots = TRUE)

spoilt_call <- function(call) {
  call <- matched(call)
  at <- if (length(call) > 2) sample(2:length(call), 1) else 2
  if (is.character(call[[at]]) && length(call[[at]]) == 1 && runif(1) < 0.4) {
    call[[at]] <- mangle(call[[at]])
    return(call)
  }
  switch(sample.int(3, 1), call[-at], {
    value <- odd_values[[sample.int(length(odd_values), 1)]]
    call[at] <- list(if (is.language(value)) call("quote", value) else value)
    call
  }, {
    formals <- setdiff(names(formals(get(as.character(call[[1]]), asNamespace("habanera")))), "...")
    value <- odd_values[[sample.int(length(odd_values) - 1, 1) + 1]]
    if (length(formals)) call[[one(formals)]] <- if (is.language(value)) call("quote", value) else value
    call
  })
}

spoilt <- function(expr, at) {
  if (!length(at)) return(spoilt_call(expr))
  expr[[at]] <- spoilt_call(expr[[at]])
  expr
}

# Those that no example calls by themselves.
further <- expression(
  draws(deck_standard(), 5, keep = keep_where(rank == "A"), a = count(rank == "A")),
  rule_fraction("odds", 1.5, 1, 3, "what it pays"),
  provenance(simulate(draws(deck_numbered(3), 1), 10, seed = 1)), known_slips(), shuffle_transpositions(times = 3),
  shuffle_program("cat"), shuffle_one_cycle(), draws_program("head -1", deck_numbered(3), size = 1), keep_groups(2),
  sit_in(game_pairs(pairs = 2), seat = 1, seed = 1, file = file.path(folder, "sat.json")), game("war", seats = 2),
  shuffle_shelf(shelves = 5), deck_sampled("standard", 5), write_rules(game_war(), file.path(folder, "w.yaml")),
  game_cpp("nowhere.cpp"), keep_run(3), shuffle_steps(), diagnose(audit(shuffle_naive_swap(), nsim = 100, seed = 1)),
  strategy_grid(player_basic()), draws_recorded(list("AS KD", "QH 2C"), deck_standard(), size = 2), shuffle_cut(),
  judge_count(game_blackjack(), "level one balanced"),
  player_lookahead(5, "random"), player_basic(), shuffle_wash(seconds = 3), player_insures(player_basic()),
  player_never_busts(), player_as_dealer(), write_strategy(player_basic(), file.path(folder, "s.csv")),
  shuffle_retry(shuffle_random_keys()),
  outcome_choice(c("a", "b"), "which"), shuffle_small_seed(bits = 4), shuffle_modulo(), shuffle_overhand(packet = 4),
  shuffle_top_to_random(times = 2), shuffle_coin_sort(), shuffle_piles(piles = 4),
  shuffle_with(function(deck) rev(deck)),
  write_deviations(deviations(data.frame(hand = "hard 16", up_card = "10", from = 0, below = NA, move = "stand")),
                   file.path(folder, "d.csv")),
  find_deviations(game_blackjack(packs = 1), range = 0:1, nsim = 0), judge_moves(sit_in(game_pairs(pairs = 2),
                                                                                        seed = 1)),
  player_stands_on(17), shuffle_overwrite(), shuffle_random_keys(values = 20), deck_ranks(deck_standard()),
  hand_strength("AS KS QS JS 10S"),
  player_with(function(view, moves) moves[1]), estimate_names(game_war()),
  draw_more(draws(deck_standard(), 2, a = count(rank == "A")), 2),
  audit(shuffle_recorded(demo_file("volunteer-shuffles.csv"))), showdown(list("AS KS", "QH QD"), nsim = 100, seed = 1),
  category_odds(size = 3), takings(game_high_card(), demo_file("takings-front.csv")), player_forgetful(0.5, 3),
  report(simulate(draws(deck_numbered(3), 1), 10, seed = 1), file.path(folder, "r.html")), rules(game_war()),
  card_impact(game_war(), nsim = 100, seed = 1), bankroll(game_high_card(), start = 10, rounds = 100))

topics <- c(example_topics(), list(list(expressions = as.list(further), where = globalenv())))
example_calls <- unlist(lapply(topics, function(topic) unlist(lapply(topic$expressions, function(expr) {
  lapply(places_of_calls(expr), function(at) list(expr = expr, at = at, where = topic$where))
}), recursive = FALSE)), recursive = FALSE)
# Generics of other packages are theirs to guard.
foreign <- c("tidy", "glance", "autoplot", "simulate")
name_of_call <- function(case) as.character((if (length(case$at)) case$expr[[case$at]] else case$expr)[[1]])
by_name <- split(example_calls, vapply(example_calls, name_of_call, ""))
by_name <- by_name[setdiff(names(by_name), foreign)]
cat(sprintf("%d calls of %d exported functions in the examples; not among them: %s.\n", length(example_calls),
            length(by_name), paste(setdiff(exported, c(foreign, names(by_name))), collapse = ", ")))

spoilt_example <- function() {
  case <- one(by_name[[one(names(by_name))]])
  run_spoilt(spoilt(case$expr, case$at), case$where)
}
run_spoilt <- function(expr, around) {
  noted(substr(paste(deparse(expr, nlines = 3), collapse = " "), 1, 300))
  where <- new.env(parent = around)
  utils::capture.output({
    value <- withVisible(eval(expr, where))
    if (value$visible) print(value$value)
  })
}

# Of the first example of each function every argument in turn with every value that often leaks: functions to be run.
often_leaking <- list("\xff", c(a = 1), character(), numeric(), new.env(), mean, quote(x + y), c(1, NA), NULL,
                      list(1, "a"),
                      deck_numbered(3), strrep("x", 1e5), factor("a"), Inf)
swept_examples <- function() {
  unlist(lapply(by_name, function(cases) {
    case <- cases[[1]]
    call <- if (length(case$at)) case$expr[[case$at]] else case$expr
    arguments <- setdiff(names(formals(get(as.character(call[[1]]), asNamespace("habanera")))), "...")
    unlist(lapply(arguments, function(argument) lapply(often_leaking, function(value) {
      changed <- matched(call)
      changed[argument] <- list(if (is.language(value)) call("quote", value) else value)
      expr <- case$expr
      if (length(case$at)) expr[[case$at]] <- changed else expr <- changed
      function() run_spoilt(expr, case$where)
    })), recursive = FALSE)
  }), recursive = FALSE)
}

# A file of the hall's, changed, to one of those who read such files.
readers <- list(deck_from = deck_from, recorded = function(file) draws_recorded(file, deck_standard()),
                shuffles = function(file) audit(shuffle_recorded(file)), rules = function(file) game_war(rules = file),
                twenty_one = function(file) game_blackjack(rules = file), piles = function(file) game_war(piles = file),
                pays = function(file) game_video_poker(pays = file),
                third = function(file) game_baccarat(third_card = file),
                strategy = strategy_table, takings = function(file) takings(game_high_card(), file),
                bets = function(file) bet_ramp(file),
                follow = function(file) bets_follow(game_blackjack(), file), edges = edge_table, hands = hand_category,
                system = counting_system,
                hand_rules = function(file) category_odds(rules = file), judge = judge_moves, result = read_result,
                deviations = deviations)
shipped <- list.files(system.file("lantern-hall", package = "habanera"), full.names = TRUE)
spoilt_file <- function() {
  from <- one(shipped)
  bytes <- readBin(from, "raw", min(file.size(from), 4000))
  file <- file.path(folder, paste0("shipped.", tools::file_ext(from)))
  writeBin(charToRaw(mangle(rawToChar(bytes))), file)
  reader <- one(names(readers))
  noted(paste(reader, basename(from)))
  readers[[reader]](file)
}

# The words of the examples of commands, one of them spoilt, with few trials.
example_words <- unlist(lapply(habanera:::commands(), function(command) {
  lapply(grep("[|<>]", command$examples(), value = TRUE, invert = TRUE),
         function(line) scan(text = line, what = "", quiet = TRUE)[-1])
}), recursive = FALSE)
spoilt_words <- function() {
  words <- one(example_words)
  if (words[1] %in% c("demo", "install")) words <- c("deck", "standard")
  trials <- match("--trials", words)
  if (!is.na(trials)) words[trials + 1] <- "50"
  at <- sample.int(length(words), 1)
  switch(sample.int(4, 1), words[-at], append(words, words[at], at), {
    words[at] <- mangle(words[at])
    words
  }, {
    words[at] <- one(c(strange, "nowhere.csv", "/dev/null", "1:Inf", "0x1F"))
    words
  })
}
