# Figures as files. They are drawn in memory where the device can, and otherwise looked through when they are written:
# a device says nothing when the disk is full.

# By the extension of the file: .png, .svg or .pdf; sizes in inches.
write_plot_file <- function(plot, file, width, height, call = NULL) {
  kind <- file_kind(file)
  if (kind == "svg") return(write_bytes_whole(svg_bytes(plot, width, height), file, call))
  write_whole_file(file, function(path) {
    draw_file(plot, path, kind, width, height)
    if (!is_whole_picture(read_bytes(path), kind)) stop("it is cut short; is the disk full?")
  }, call)
}

svg_bytes <- function(plot, width, height) {
  if (!requireNamespace("svglite", quietly = TRUE)) return(bytes_of_device(plot, width, height))
  drawn <- svglite::svgstring(width, height, fix_text_size = FALSE)
  tryCatch(print(plot), finally = grDevices::dev.off())
  charToRaw(enc2utf8(with_font_stack(paste(as.character(drawn()), collapse = "\n"))))
}

# Where the font that was measured is missing, one much like it is taken, and no letter is stretched to its width.
with_font_stack <- function(svg) {
  gsub("font-family: \"([^\"]+)\";", "font-family: \"\\1\", Arial, Helvetica, sans-serif;", svg)
}

# R's own device for such pictures writes to files alone.
bytes_of_device <- function(plot, width, height) {
  file <- tempfile(fileext = ".svg")
  on.exit(unlink(file))
  draw_file(plot, file, "svg", width, height)
  bytes <- read_bytes(file)
  if (is_whole_picture(bytes, "svg")) return(bytes)
  refuse("Cannot write a picture whole; is the temporary folder full?", "file", call = NULL)
}

draw_file <- function(plot, path, kind, width, height) {
  switch(kind, png = grDevices::png(path, width, height, units = "in", res = 110, bg = "white"),
         pdf = grDevices::pdf(path, width, height), svg = grDevices::svg(path, width, height))
  tryCatch(print(plot), finally = grDevices::dev.off())
}

is_whole_picture <- function(bytes, kind) {
  switch(kind, png = is_whole_png(bytes), pdf = is_whole_pdf(bytes), svg = ends_with(bytes, "</svg>"))
}

# Chunk after chunk, each a length, a name, so many bytes and a checksum, to the one that ends it (ISO/IEC 15948,
# section 5).
is_whole_png <- function(bytes) {
  at <- 8
  while (at + 12 <= length(bytes)) {
    size <- sum(as.integer(bytes[at + 1:4]) * 256^(3:0))
    name <- bytes[at + 5:8]
    at <- at + 12 + size
    if (identical(name, charToRaw("IEND"))) return(at == length(bytes))
  }
  FALSE
}

# Its last lines tell where its table of contents begins (ISO 32000-1, section 7.5.5).
is_whole_pdf <- function(bytes) {
  if (!ends_with(bytes, "%%EOF")) return(FALSE)
  tail <- rawToChar(utils::tail(bytes, 64))
  at <- as.numeric(sub("^.*startxref\\s+([0-9]+)\\s.*$", "\\1", tail))
  is.finite(at) && at + 4 <= length(bytes) && identical(bytes[at + 1:4], charToRaw("xref"))
}

ends_with <- function(bytes, text) {
  end <- utils::tail(bytes, nchar(text) + 2)
  endsWith(trimws(rawToChar(end[end != as.raw(0)])), text)
}
