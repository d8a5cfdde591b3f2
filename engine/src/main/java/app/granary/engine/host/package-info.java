/**
 * What is at hand: computers, their disks, and destinations, behind one port with two adapters, this machine and (in another module) the
 * simulated office. Nothing is null. Start with {@link app.granary.engine.host.Host}.
 */
package app.granary.engine.host;
