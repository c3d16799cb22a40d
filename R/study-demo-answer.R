# What the answers of the demo share.

demo_seed <- 44

write_demo_figure <- function(x, file) {
  write_whole_file(file, function(path) draw_svg(ggplot2::autoplot(x), path, 11.6, 7.3))
}
