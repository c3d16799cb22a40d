# What the answers of the demo share.

demo_seed <- 44

write_demo_figure <- function(x, file) {
  write_plot_file(ggplot2::autoplot(x), file, 11.6, 7.3)
}
