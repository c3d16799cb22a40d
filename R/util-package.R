#' Habanera: a laboratory for card games
#'
#' State a deck, a shuffle, a draw or a game as a small object; simulate it or work it out exactly; read counts,
#' distributions, figures and a report.
#'
#' @section What you have or want, and what to call:
#' * a deck of any kind: [deck_standard()], [deck_numbered()], [deck_from()], [deck_sampled()], [as_cards()]
#' * does each card come as often as it should? [draws()], [positions()], [simulate()][simulate.habanera_experiment]
#' * draws in a file, a spreadsheet, a function, a program: [draws_recorded()], [as_counts()], [draws_with()],
#'   [draws_program()]
#' * how many draws show a bias? [draws_needed()]
#' * what is in a hand, also after redraws, exchanges and turns? [draws()] with questions ([question_language]),
#'   [redraw_if()], [exchange_cards()], [draw_more()]
#' * how long until something comes up? [draw_until()]
#' * what does it pay, what stake is right? [payout()], [price_for()]
#' * how many copies of a card, which cards to keep? [copies_curve()], [best_exchange()]
#' * what is a hand worth, how often does it come? [hand_rules()], [hand_category()], [rank_hands()],
#'   [category_odds()]; does it win? [showdown()]
#' * the exact answer and its working: [exact()], [show_working()]
#' * one shuffle, one card through repeats: [shuffle()], [replay()], [follow()], [restore_period()]
#' * is a shuffle fair, and which slip is it like? [audit()], [shuffle_with()], [shuffle_recorded()],
#'   [shuffle_program()], [diagnose()]
#' * how many repeats are enough? [mixing()]
#' * a whole game: [game_war()], [game_pairs()], [game_high_card()], [rules()]; one game looked at: [replay_game],
#'   [piles_at()]
#' * who plays best, what is best play, a seat of your own: [players], [round_robin()], [best_play()], [sit_in()]
#' * what does the house keep, of whom, by which rules? [game_blackjack()], [strategy_table()], [customers],
#'   [house_edge()]; what is best, what do mistakes cost, what now? [best_strategy()], [mistakes()], [advise()]; what is
#'   each rule worth? [rule_effects()]
#' * other tables against the house: [game_baccarat()], [game_video_poker()] with [keep_rules()], [game_high_card()],
#'   [game_narrows()]; all of them side by side: [edge_table()]; what must a line pay? [price_for()]
#' * what is a missing card worth, how good is a count? [removal_effects()], [counting_system()], [design_tags()],
#'   [true_count_distribution()]; what does one who counts gain, where does he play otherwise, what does he bet, what
#'   stops him? [player_counting()], [by_true_count()], [find_deviations()], [bet_sizes()], [counter_gain()]; who counts
#'   better? [compare_counters()]; do these bets follow the count? [bets_follow()]
#' * who goes broke, what is to be staked? [bankroll()], [bet_progression()], [stake_fraction()], [rounds_to_show()];
#'   what does a season bring, how large a reserve? [sessions()]; was it luck? [takings()]
#' * seats that hide cards and bet: [game_betting()], [player_by_rules()], [player_by_table()]; sound play, best answers
#'   and what a habit costs: [equilibrium()], [best_play()], [mistakes()]
#' * a game of your own: [game_custom()], [game_cpp()], [check_game()], [write_game_template()]
#' * what does a rule change, which rules meet a wish? [compare.habanera_game()], [vary_rules()], [tune_rules()]
#' * what is a card worth? [card_impact()]
#' * many questions in one file, kept, over machines, on one page: [read_study()], [run_study()]
#' * a figure, a page, a file: [autoplot()], [report()], [write_result()]
#'
#' Articles: `browseVignettes("habanera")`. In the shell: `habanera --help`.
#'
#' @useDynLib habanera, .registration = TRUE
#' @importFrom Rcpp evalCpp
#' @importFrom rlang .data
#' @keywords internal
"_PACKAGE"
