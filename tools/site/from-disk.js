// Browsers give pages that are read from disk no workers and no requests. There the search is done in the page itself,
// by the same library, over an index that is loaded as a script.
if (location.protocol === "file:") {
  window.Worker = function (address) {
    var worker = this, index, pages = {}, folder = address.replace(/worker\.js$/, "");

    function load(file, then) {
      var script = document.createElement("script");
      script.src = folder + file;
      script.onload = then;
      document.head.appendChild(script);
    }

    function tell(data) { worker.onmessage({ data: data }); }

    function build() {
      var written = window.searchIndex;
      index = lunr(function () {
        this.field("title");
        this.field("text");
        this.ref("location");
        written.docs.forEach(function (page) { this.add(page); pages[page.location] = page; }, this);
      });
      tell({ config: written.config });
      tell({ allowSearch: true });
    }

    function found(query) {
      return index.search(query).map(function (hit) {
        var page = pages[hit.ref];
        return { location: page.location, title: page.title, summary: page.text.slice(0, 200) };
      });
    }

    this.postMessage = function (message) {
      if (message.init) load("lunr.js", function () { load("search_index.js", build); });
      else tell({ results: found(message.query) });
    };
  };
}
