# What can run for more than two seconds, each as a call that would run for a minute or more, and what cannot. Whoever
# exports a function, or adds a command, puts it into one of the two.

long_calls <- function() {
  counting <- quote(game_blackjack(cut_after = 0.75, players = player_counting(player_basic())))
  level_one <- "level one balanced"
  long <- alist(
    advise = advise(last_bet, "AH JH"),
    audit = audit(procedure("riffle x7"), nsim = 1e9, seed = 1),
    best_strategy = for (packs in 1:400) best_strategy(game_blackjack(packs = 8), knows = "all_cards"),
    best_play = for (i in 1:5000) best_play(game_pairs(pairs = 9)),
    card_impact = card_impact(game_war(), nsim = 1e9, seed = 1),
    category_odds = for (i in 1:20) category_odds(size = 9),
    check_game = check_game(endless_drawing(), nsim = 1e6, seed = 1),
    bankroll = for (i in 1:1e4) bankroll(game_high_card(), start = 500, rounds = 1e4),
    bets_follow = for (i in 1:1e4) bets_follow(game_blackjack(), demo_file("bets-at-the-window.csv"), level_one),
    compare = compare(game_war(), game_war(tie = "split"), nsim = 1e9, seed = 1),
    compare_counters = compare_counters(counting, list(one = player_counting(player_basic()), two = player_counting(
      player_basic(), bets = "0=1 1=8")), nsim = 1e8, seed = 1),
    convergence = for (i in 1:100) convergence(counted),
    copies_curve = copies_curve(draws(deck_standard(), 5, a = count(rank == "A")), "AS", 0:1000),
    counter_gain = counter_gain(counting, nsim = 1e8, seed = 1),
    diagnose = for (i in 1:1000) diagnose(audited),
    draws_needed = for (i in 1:1e5) draws_needed(deck_standard(), 5, off_by = 0.001),
    edge_table = edge_table(counting, counting2 = counting, game_baccarat()),
    equilibrium = equilibrium(lanterns_60, gap = 1e-9, seconds = 100),
    equilibrium_of_bets = equilibrium(last_bet, gap = 1e-9, seconds = 100),
    exact = exact(draws(deck_standard(packs = 8), 9, kind = category()), method = "walk"),
    find_deviations = for (i in 1:50) find_deviations(game_blackjack(), level_one, seed = 1),
    hand_category = for (i in 1:50) hand_category(rep("AS KS QS JS 10S", 1e5)),
    house_edge = house_edge(counting, nsim = 1e8, seed = 1),
    judge_moves = judge_moves(sat_in(), player_lookahead(1e6)),
    judge_count = for (i in 1:50) judge_count(game_blackjack(), level_one),
    mistakes = for (i in 1:200) mistakes(game_video_poker(), player_random()),
    mixing = mixing("riffle", times = 1:50, nsim = 1e8, seed = 1),
    price_for = for (i in 1:200) price_for(game_blackjack(), edge = 0.01, lines = "natural_pays"),
    rank_hands = for (i in 1:200) rank_hands(rep("AS KS QS JS 10S", 1e5)),
    removal_effects = for (i in 1:200) removal_effects(game_blackjack()),
    replay = replay(game_pairs(players = player_lookahead(1e6)), 1),
    round_robin = round_robin(game_pairs(), c("random", "full_memory", "careful"), nsim = 1e9, seed = 1),
    run_study = run_study(long_study, tempfile()),
    rule_effects = for (i in 1:50) rule_effects(game_blackjack(), knows = "all_cards"),
    showdown = showdown(list("AS KS", "QH QD", ""), size = 4, own_cards = 2, nsim = 1e9, seed = 1),
    simulate = simulate(game_pairs(players = player_lookahead(1e5)), 1e9, seed = 1),
    sessions = for (i in 1:1000) sessions(game_high_card(), rounds = 1000, sessions = 10),
    trials = for (i in 1:1000) trials(draws(deck_standard(), 5), 1, 1:1e5),
    tune_rules = tune_rules(game_war(), list(face_down = 0:3), "winner_1 > 0.5", nsim = 1e9, seed = 1),
    tune_edges = tune_rules(game_blackjack(), list(packs = 1:8, natural_pays = seq(1, 1.5, 0.01)), "edge < 0.01"),
    vary_rules = vary_rules(game_war(), face_down = 0:30, nsim = 1e8, seed = 1),
    vary_values = vary_rules(game_betting(rules = "one card, two streets"), ante = 1:900, of = "value"),
    vary_edges = vary_rules(game_blackjack(), packs = 1:8, natural_pays = seq(1, 1.5, 0.01), of = "edge")
  )
  long <- c(long, list(report = quote(for (i in 1:1000) report(audited, tempfile(fileext = ".html")))))
  # What these stand on is made before: an interrupt in a run keeps its part, and the loop around it would go on.
  last_bet <- quote(game_betting(board = "KS 8H 3D QC 2S", pot = 10, stacks = 20,
                                 streets = list(street(bets = c("1/2 pot", "pot"), raises = "all in", most_bets = 2))))
  long_study <- study_file(c("games: {quick: {game: war}}", "runs:",
                             "  a: {exact: {draws: {deck: numbered 9, size: 2}}}",
                             "  b: {simulate: {object: quick, nsim: 1e9}}"))
  made <- list(long_study = long_study, counting = counting, last_bet = last_bet, level_one = level_one,
               lanterns_60 = lanterns(60, bets = 20),
               audited = naive_audit(), counted = aces_counted())
  lapply(long, function(call) do.call(substitute, list(call, made)))
}

# What each command runs; it ends as that does.
functions_of_commands <- c(
  demo = "report", study = "run_study", deck = "deck_from", draws = "simulate", until = "simulate",
  payout = "simulate", games = "games",
  play = "simulate", replay = "replay", vary = "vary_rules", tune = "tune_rules",
  compare = "compare", impact = "card_impact", price = "price_for",
  `round-robin` = "round_robin", best = "best_play", equilibrium = "equilibrium", edge = "house_edge",
  edges = "edge_table",
  strategy = "best_strategy",
  advise = "advise", mistakes = "mistakes", `rule-effects` = "rule_effects", dealer = "dealer_totals",
  removal = "removal_effects", counting = "counting_system", `bets-follow` = "bets_follow", bankroll = "bankroll",
  sessions = "sessions", takings = "takings", judge = "judge_moves", check = "check_game", hands = "hand_category",
  `category-odds` = "category_odds", showdown = "showdown", needed = "draws_needed", procedures = "shuffle_steps",
  shuffle = "shuffle", follow = "follow", period = "restore_period", exact = "exact", audit = "audit", mixing = "mixing"
)

naive_audit <- function() audit(shuffle_naive_swap(), nsim = 1000, seed = 1)
aces_counted <- function() simulate(draws(deck_standard(), 5, aces = count(rank == "A")), 1e6, seed = 1)
sat_in <- function() list(game = game_pairs(), seat = 1, moves = c(1, 2), seed = 1, trial = 1)
endless_drawing <- function() {
  game_custom("drawing", deck_standard(), function(table, rules, players) {
    table$move("stock", "discards")
    list(turned = 1)
  }, outcomes = list(turned = outcome_whole("cards turned")), piles = c(stock = "hidden", discards = "open"))
}

quick_exports <- strsplit("
  as_cards as_counts autoplot best_exchange bet_progression glance in_words bet_ramp bet_sizes by_true_count
  card_attributes change_rules check_cards counting_system deal dealer_totals deck_crossed deck_from
  deck_numbered deck_ranks deck_sampled deck_standard demo_file design_tags deviations draw_more draw_until
  draws draws_program draws_recorded draws_with estimate_names estimates exact_distance exchange_cards
  explain_hand follow game game_baccarat game_betting
  game_blackjack game_cpp game_custom game_high_card game_narrows
  game_pairs game_video_poker game_war games hand_place hand_rules hand_strength install_command keep_groups
  keep_rules keep_run keep_suit keep_where known_slips money_distribution outcome_choice outcome_flag
  outcome_money outcome_seat outcome_whole payout piles_at player_as_dealer player_basic player_careful
  player_by_rules player_by_table player_calls_all
  player_counting player_errs player_flat player_forgetful player_full_memory player_insures
  player_lookahead
  player_mixture player_never_busts player_peeking player_person player_random player_regular player_solved
  player_stands_on
  player_with positions procedure provenance read_result redraw_if reprice restore_period rounds_to_show
  rule_choice rule_flag rule_fraction rule_whole rules set_attributes shoe_edge show_working shuffle
  shuffle_coin_sort shuffle_cut shuffle_faro shuffle_modulo shuffle_naive_swap shuffle_none shuffle_one_cycle
  shuffle_overhand shuffle_overwrite shuffle_piles shuffle_program shuffle_random_keys shuffle_recorded
  shuffle_retry shuffle_riffle shuffle_shelf shuffle_small_seed shuffle_steps shuffle_strip
  shuffle_top_to_random shuffle_transpositions shuffle_uniform shuffle_wash shuffle_with sit_in stake_fraction
  strategy_grid strategy_table street takings tidy trials_needed true_count_distribution verdict write_deviations
  merge_studies read_study study_code study_results write_game_template write_result write_rules write_strategy
", "[[:space:]]+")[[1]][-1]

# Runs a call in a process of its own, interrupts it, and tells how it ended: "nothing" was kept, a "part", or it was
# "done"; and how long it went on after the signal.
interrupted_call <- function(call, after = 0.3, most = 20) {
  begun_file <- tempfile()
  call <- bquote({
    file.create(.(begun_file))
    part <- FALSE
    ended <- tryCatch(withCallingHandlers({
      eval(.(call))
      "done"
    }, habanera_warning_interrupted = function(cnd) {
      part <<- TRUE
      rlang::cnd_muffle(cnd)
    }), interrupt = function(cnd) "nothing", error = conditionMessage)
    if (part && ended == "done") "part" else ended
  })
  job <- parallel::mcparallel(eval(call), silent = TRUE)
  # A process that has not begun yet hears nothing.
  for (i in 1:200) if (!file.exists(begun_file)) Sys.sleep(0.05)
  Sys.sleep(after)
  begun <- proc.time()[["elapsed"]]
  tools::pskill(job$pid, tools::SIGINT)
  found <- NULL
  while (is.null(found) && proc.time()[["elapsed"]] - begun < most) {
    found <- parallel::mccollect(job, wait = FALSE, timeout = 0.05)
  }
  if (is.null(found)) {
    tools::pskill(job$pid, tools::SIGKILL)
    parallel::mccollect(job)
    found <- list("went on")
  }
  list(ended = found[[1]], late = proc.time()[["elapsed"]] - begun)
}
