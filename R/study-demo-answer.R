# What the answers of the demo share.

demo_seed <- 44

write_demo_figure <- function(x, file) {
  write_plot_file(ggplot2::autoplot(x), file, 11.6, 7.3)
}

# A page that the answers lead to, and that leads back to them.
write_demo_report <- function(x, file, title) write_report(x, file, title, back = c("All questions" = "index.html"))
