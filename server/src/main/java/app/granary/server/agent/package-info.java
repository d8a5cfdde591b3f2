/** Computers somewhere else that have joined this office: their port, their codes, and which are here. Nothing is null. */
package app.granary.server.agent;
