# What was found of recorded hands, in words.

# The tests, and what is to be said beside them.
hands_judgement <- function(x) {
  plan <- hand_plan(x)
  tests <- judged_hands(plan)
  list(tests = tests, hands = nrow(plan$held), in_order = plan$in_order, repeats = repeats_in_words(plan),
       seen = forced_pair_seen(plan, nrow(tests)))
}

# "Biased by 2 of 8 tests at level 0.01 (Holm): categories (p = 0.0012: one pair comes ...) and ...".
hands_verdict <- function(summary) {
  tests <- summary$hands$tests
  tests <- tests[order(tests$p.adjusted, tests$p.value), ]
  off <- tests[tests$p.adjusted < verdict_level, ]
  if (!nrow(off)) {
    few <- verdict(summary) == "too_few"
    return(sprintf("%s by %s (level %s, Holm); the smallest adjusted p-value is %s, of %s.",
                   if (few) "Too few draws to tell: nothing is seen" else "No bias seen",
                   count_of(nrow(tests), "test"), format_number(verdict_level, 1),
                   format_number(tests$p.adjusted[1], 2),
                   tests$term[1]))
  }
  each <- sprintf("%s (p %s; %s)", off$term, format_p_value(off$p.value), off$off)
  sprintf("Biased, by %s of %s at level %s (Holm): %s.", format_count(nrow(off)), count_of(nrow(tests), "test"),
          format_number(verdict_level, 1), join_some(each, 3))
}

hands_notes <- function(summary) {
  if (summary$cards_alone) {
    return("How often each card came is all that is known here: what lay in one hand is not judged.")
  }
  if (is.null(summary$hands)) return(NULL)
  c(summary$hands$repeats,
    if (summary$hands$in_order) {
      "All hands are written in order, so that the place of a card in its hand tells nothing."
    },
    if (!is.na(summary$hands$seen)) {
      sprintf("A pair forced into %s of the hands, or more, would be seen in nine of ten such records.",
              format_percent(summary$hands$seen, 2))
    })
}

# Whether hands were counted elsewhere, and are not there themselves.
lacks_hands <- function(x) {
  experiment <- x$provenance$experiment
  is.null(x$hands) && x$provenance$source != "simulation" && inherits(experiment, "habanera_draws") &&
    experiment$size > 1
}

printed_hand_tests <- function(tests) {
  data.frame(test = tests$term, statistic = format_number(tests$statistic, 4),
             df = ifelse(tests$term == "repeats within a hand", "exact",
                         ifelse(is.na(tests$df), "simulated", format_count(tests$df))),
                         p = format_number(tests$p.value, 2),
             `p (Holm)` = format_number(tests$p.adjusted, 2), `furthest off` = tests$off, check.names = FALSE)
}

# Where cards came too often in a hand: how many, which, how likely that is, and what follows.
repeats_in_words <- function(plan) {
  came <- sum(plan$doubled)
  hands <- nrow(plan$held)
  chance <- chance_of_repeat(plan$kinds$copies, plan$size)
  share <- sprintf("%s of %s", format_count(came), count_of(hands, "hand"))
  if (plan$experiment$replace) {
    return(sprintf("%s hold a card more often than one pack has it; where every card goes back %s would.", share,
                   format_percent(chance, 3)))
  }
  if (!came) return(NULL)
  first <- which(plan$doubled)[1]
  held <- plan$held[first, ]
  cards <- plan$kinds$cards[held]
  twice <- plan$kinds$cards[tabulate(held, length(plan$kinds$copies)) > plan$kinds$copies][1]
  likely <- stats::binom.test(came, hands, chance)$p.value >= verdict_level
  sprintf(paste("%s hold a card more often than the pack has it, the first draw %s (%s, with %s again). Where dealt",
                "cards stay out none can; where every card goes back %s would. %s"),
          share, format_count(first), paste(cards, collapse = " "), twice, format_percent(chance, 3),
          if (likely) {
            "So it seems that cards went back before the next was drawn: say `replace = TRUE`."
          } else {
            paste("So neither holds: packs were mixed or not kept track of, or something was written down wrongly;",
                  "these hands are left out of the tests of hands.")
          })
}

# The smallest share of hands into which a pair must be forced to be seen in nine of ten records, by the mean number of
# different ranks at the level that Holm leaves to the first of so many tests; NA where that is not told.
forced_pair_seen <- function(plan, tests) {
  has_ranks <- !plan$experiment$replace && !is.null(plan$data$rank) && !anyNA(plan$data$rank)
  ranks <- if (has_ranks && nrow(plan$fair) >= 200) different_trait("rank", plan)
  if (is.null(ranks)) return(NA_real_)
  wanted <- needed_noncentrality(1, verdict_level / tests, 0.9)
  share <- sqrt(wanted / (forced_rank_noncentrality(ranks, 1) * nrow(plan$fair)))
  if (is.finite(share) && share < 1) share else NA_real_
}

# The same of the mean number of different ranks, which are fewer in hands with a pair.
forced_rank_noncentrality <- function(trait, share) {
  paired <- trait$law * (trait$values < max(trait$values[trait$law > 0]))
  mean <- sum(trait$law * trait$values)
  if (sum(paired) == 0) return(0)
  shift <- share * (sum(paired * trait$values) / sum(paired) - mean)
  shift^2 / (sum(trait$law * trait$values^2) - mean^2)
}

# What each hand adds to the noncentrality of a chi-square over categories where this share of hands is made one with a
# pair or better: they are then as such hands are among fair ones.
forced_pair_noncentrality <- function(law, share) {
  paired <- law * !names(law) %in% c("high card", "straight", "flush", "straight flush", "royal flush")
  if (sum(paired) == 0) return(0)
  shift <- share * (paired / sum(paired) - law)
  sum((shift^2 / law)[law > 0])
}
