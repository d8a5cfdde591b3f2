/** Faults as RFC 9457 problem details. */
package app.granary.server.problem;
