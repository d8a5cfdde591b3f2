/** Faults to be switched on and off where devices are made up. */
package app.granary.server.switches;
