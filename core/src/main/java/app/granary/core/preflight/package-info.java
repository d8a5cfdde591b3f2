/** What is looked at, besides disks and destinations, before long work begins: the machine's clock and its power. Nothing is null. */
package app.granary.core.preflight;
