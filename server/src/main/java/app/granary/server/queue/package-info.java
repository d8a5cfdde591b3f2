/** The life of long work: waiting, under way, held, ended; what may run beside what; and what each run was asked to do. */
package app.granary.server.queue;
