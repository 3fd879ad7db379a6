/* On every page: what waits to be sent, and what the phone holds for when there is no signal. */

import "./outbox.js";
import "./hold.js";
