/**
 * The simulated office: computers, disks and drives that are made up, behind the same port as real ones. Bytes are really read, compressed,
 * written and checked; only size and pace are scaled, here and nowhere else. Nothing is null. Start with
 * {@link app.granary.standins.SimulatedOffice}.
 */
package app.granary.standins;
