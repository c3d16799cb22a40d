# Pages in a headless browser, at a given width: what a reader would stumble over. All pages are looked at in one start
# of the browser, each in a frame of its own, which its media queries take for the window.

browser <- function() {
  found <- Sys.which(c("chromium", "chromium-browser", "google-chrome"))
  found[nzchar(found)][1]
}

# Runs in a frame once it has loaded; `findings` are texts.
page_probe <- "
function probe(frame) {
  var doc = frame.contentDocument, width = frame.clientWidth, findings = frame.contentWindow.problems.slice();
  function off(words) { findings.push(words); }
  if (doc.documentElement.scrollWidth > width) off('the page is ' + doc.documentElement.scrollWidth + ' wide');
  var shown = 'h1,h2,h3,p,li,dd,dt,td,th,pre,summary,figcaption,caption,img,select,input';
  doc.querySelectorAll(shown).forEach(function (el) {
    var box = el.getBoundingClientRect(), scrolls = el.closest('.wide');
    if (!box.width || (scrolls && el !== scrolls)) return;
    if (box.right > width + 1 || box.left < -1) off(el.tagName + ' out of the page: ' + el.textContent.slice(0, 40));
    if (el.scrollWidth > el.clientWidth + 1 && el.clientWidth && el.tagName !== 'SELECT' && el.tagName !== 'INPUT')
      off(el.tagName + ' text out of its box: ' + el.textContent.slice(0, 40));
  });
  doc.querySelectorAll('img').forEach(function (img) { if (!img.naturalWidth) off('a figure is not drawn'); });
  doc.querySelectorAll('pre').forEach(function (pre) {
    if (!pre.closest('details')) off('console text: ' + pre.textContent.slice(0, 40));
  });
  if (!doc.querySelector('h1')) off('no heading');
  if (!doc.querySelector('.verdict, nav')) off('no answer');
  doc.querySelectorAll('a[href^=\"#\"]').forEach(function (a) {
    if (!doc.getElementById(a.getAttribute('href').slice(1))) off('a link leads nowhere: ' + a.textContent);
  });
  return findings;
}"

# What is found wrong with each of the pages, by file; `extra` is JavaScript that is given the frame's document and
# returns a text, which stands in `attr(, \"extra\")`.
seen_in_browser <- function(files, width, extra = "null") {
  trap <- paste0("<script>window.problems = [];",
                 "window.onerror = function (words) { window.problems.push(String(words)); };</script>")
  pages <- vapply(files, function(file) {
    text <- paste(readLines(file, warn = FALSE, encoding = "UTF-8"), collapse = "\n")
    text <- sub("<head>", paste0("<head>", trap), text, fixed = TRUE)
    gsub("\"", "&quot;", gsub("&", "&amp;", text, fixed = TRUE), fixed = TRUE)
  }, "")
  frames <- sprintf("<iframe style=\"width:%dpx;height:900px;border:0\" srcdoc=\"%s\"></iframe>", width, pages)
  script <- paste0(
    "<script>", page_probe, "\nfunction extra(doc) { return ", extra, "; }\n",
    "window.onload = function () { var all = [];",
    "document.querySelectorAll('iframe').forEach(function (f) {",
    "  all.push({findings: probe(f), extra: extra(f.contentDocument)}); });",
    "document.body.innerHTML = ''; var out = document.createElement('pre');",
    "out.textContent = JSON.stringify(all); document.body.appendChild(out); };</script>"
  )
  wrapper <- withr::local_tempfile(fileext = ".html")
  writeLines(c("<!doctype html><meta charset=\"utf-8\"><body>", frames, script), wrapper, useBytes = TRUE)
  profile <- withr::local_tempdir()
  dom <- processx::run(browser(), c("--headless", "--no-sandbox", "--disable-gpu", "--disable-background-networking",
                                    "--window-size=1400,1000", paste0("--user-data-dir=", profile),
                                    "--virtual-time-budget=60000", "--dump-dom", paste0("file://", wrapper)),
                       timeout = 300)
  text <- regmatches(dom$stdout, regexpr("(?s)<pre>.*?</pre>", dom$stdout, perl = TRUE))
  plain <- gsub("&amp;", "&", gsub("&gt;", ">", gsub("&lt;", "<", gsub("</?pre>", "", text))))
  found <- jsonlite::fromJSON(plain, simplifyVector = FALSE)
  console <- grep("CONSOLE", strsplit(dom$stderr, "\n")[[1]], value = TRUE)
  list(findings = rlang::set_names(lapply(found, function(page) as.character(unlist(page$findings))), basename(files)),
       extra = lapply(found, `[[`, "extra"), console = console)
}
