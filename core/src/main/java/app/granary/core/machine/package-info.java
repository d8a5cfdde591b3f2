/** Which machine a device is in, and which way bytes go between two of them. Nothing is null. */
package app.granary.core.machine;
