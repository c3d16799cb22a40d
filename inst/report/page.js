// Tables sort by the heading that is pressed, and long ones are filtered by a word. Without this they read as they are.
(function () {
  "use strict";

  function number(text) {
    var plain = text.replace(/\u2212/g, "-").replace(/,(?=\d{3})/g, "").replace(/^[\s(*\u2265\u2264<>~]+/, "");
    var odds = /^1 in ([\d.]+)/.exec(plain);
    if (odds) return 1 / Number(odds[1]);
    var found = /^[-+]?(\d+\.?\d*|\.\d+)(e[-+]?\d+)?/i.exec(plain);
    return found ? Number(found[0]) : NaN;
  }

  function compare(a, b) {
    var x = number(a), y = number(b);
    // What is no number stands below all that are.
    if (isNaN(x) && isNaN(y)) return a.localeCompare(b, undefined, { numeric: true });
    if (isNaN(x)) return 1;
    if (isNaN(y)) return -1;
    return x - y;
  }

  function sortable(table) {
    var body = table.tBodies[0];
    var first = Array.prototype.slice.call(body.rows);
    Array.prototype.forEach.call(table.tHead.rows[0].cells, function (cell, column) {
      // No <button>: a heading that holds one is not repeated on the second page of paper.
      var button = document.createElement("span");
      button.setAttribute("role", "button");
      button.tabIndex = 0;
      button.textContent = cell.textContent;
      button.title = "Sort by this";
      cell.textContent = "";
      cell.appendChild(button);
      button.addEventListener("keydown", function (event) {
        if (event.key !== "Enter" && event.key !== " ") return;
        event.preventDefault();
        button.click();
      });
      button.addEventListener("click", function () {
        var was = cell.getAttribute("aria-sort");
        var now = was === "descending" ? "ascending" : was === "ascending" ? null : "descending";
        Array.prototype.forEach.call(table.tHead.rows[0].cells, function (other) {
          other.removeAttribute("aria-sort");
        });
        if (now) cell.setAttribute("aria-sort", now);
        var sign = now === "descending" ? -1 : 1;
        var total = first.filter(function (row) { return row.className === "total"; });
        var rows = first.filter(function (row) { return row.className !== "total"; });
        if (now) {
          rows.sort(function (a, b) {
            var x = a.cells[column].textContent, y = b.cells[column].textContent;
            if (isNaN(number(x)) !== isNaN(number(y))) return compare(x, y);
            return sign * compare(x, y);
          });
        }
        rows.concat(total).forEach(function (row) { body.appendChild(row); });
      });
    });
  }

  function filterable(table) {
    var rows = table.tBodies[0].rows;
    if (rows.length < 12) return;
    var field = document.createElement("input");
    field.type = "search";
    field.placeholder = "Show rows with ...";
    field.setAttribute("aria-label", "Show rows with these words");
    field.addEventListener("input", function () {
      var words = field.value.toLowerCase().split(/\s+/).filter(Boolean);
      Array.prototype.forEach.call(rows, function (row) {
        var cells = Array.prototype.map.call(row.cells, function (cell) { return cell.textContent; });
        var text = cells.join(" ").toLowerCase();
        row.hidden = !words.every(function (word) { return text.indexOf(word) >= 0; });
      });
    });
    table.parentNode.parentNode.insertBefore(field, table.parentNode);
  }

  Array.prototype.forEach.call(document.querySelectorAll("main table"), function (table) {
    sortable(table);
    filterable(table);
  });
  // Paper has no folds.
  window.addEventListener("beforeprint", function () {
    Array.prototype.forEach.call(document.querySelectorAll("details"), function (part) { part.open = true; });
  });
}());
