// Selects over rules: what the house keeps by those that are chosen, from the numbers that stand on the page.
(function () {
  "use strict";

  function plain(value) { return String(Number(value.toPrecision(4))); }
  function percent(share) { return plain(100 * share) + "%"; }

  function chosenText(data, places) {
    return data.rules.map(function (rule, i) {
      var odds = rule.printed[places[i]];
      return rule.name + " " + rule.values[places[i]] + (odds ? " (" + odds + ")" : "");
    }).join(", ");
  }

  function isPrinted(data, places) {
    return data.rules.every(function (rule, i) { return rule.printed[places[i]] !== null; });
  }

  function rowOf(data, places) {
    return data.rows.filter(function (row) {
      return places.every(function (place, i) { return row[i] === place; });
    })[0];
  }

  // Of rows that can be printed on a table the one with the fewest steps from the places chosen.
  function nearestPrinted(data, places) {
    var best = null, least = Infinity;
    data.rows.forEach(function (row) {
      var steps = places.reduce(function (sum, place, i) { return sum + Math.abs(row[i] - place); }, 0);
      if (steps < least && isPrinted(data, row)) { best = row; least = steps; }
    });
    return best;
  }

  function added(data, places) {
    var sum = data.base;
    data.rules.forEach(function (rule, i) { sum += rule.effects[places[i]]; });
    data.pairs.forEach(function (pair) {
      var both = pair.rules.every(function (name, k) {
        return data.rules.some(function (rule, i) {
          return rule.name === name && rule.values[places[i]] === pair.values[k];
        });
      });
      if (both) sum += pair.adds;
    });
    return sum;
  }

  function told(data, form, value) {
    if (!data.money) return data.of + " is about " + (data.share ? percent(value) : plain(value)) + ".";
    var hour = value * Number(form.elements["an-hour"].value) * Number(form.elements["a-bet"].value);
    return "The house keeps " + (data.kind === "sum" ? "about " : "") + percent(value) + " of a stake, " +
      plain(hour) + " an hour.";
  }

  function answer(data, form) {
    var places = data.rules.map(function (rule) { return Number(form.elements[rule.name].value); });
    if (data.kind === "sum") return told(data, form, added(data, places));
    var row = rowOf(data, places), last = data.rules.length;
    var words = row ? told(data, form, row[last]) : "There is no table by these rules together.";
    if (row && isPrinted(data, places)) return words;
    var near = nearestPrinted(data, places);
    return near ? words + " The nearest rules that can be printed: " + chosenText(data, near) + "; they keep " +
      percent(near[last]) + "." : words;
  }

  Array.prototype.forEach.call(document.querySelectorAll("form.choices"), function (form) {
    var data = JSON.parse(form.querySelector("script").textContent);
    function show() { form.querySelector("output").textContent = answer(data, form); }
    form.addEventListener("input", show);
    form.addEventListener("submit", function (event) { event.preventDefault(); });
    form.hidden = false;
    show();
  });
}());
