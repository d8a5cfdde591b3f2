/** The rules of the job, in plain Java: no framework, no clock, no chance, no input or output beyond the ports passed in. */
package app.granary.core;
