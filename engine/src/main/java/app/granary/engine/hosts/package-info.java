/**
 * The office's own machine and the computers that joined it, as one host: each thing asked for goes to the machine that has the device, and
 * where an image and a device are at two machines, the one serves the image's folder to the other. Nothing is null.
 */
package app.granary.engine.hosts;
