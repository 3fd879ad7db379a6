/* Small behaviour shared by all pages. */

import "./copying.js";
import "./drafts.js";
import "./faults.js";
import "./parts.js";
import "./printing.js";
import "./sharing.js";
import "./trouble.js";
import "./units.js";

/* where a yard is made, its clock is the browser's */
const zone = document.getElementById("id_time_zone");
if (zone?.type === "hidden" && !zone.value) zone.value = Intl.DateTimeFormat().resolvedOptions().timeZone ?? "";

document.addEventListener("click", (event) => {
  if (event.target.closest("[data-print]")) window.print();
});
