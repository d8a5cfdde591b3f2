/** Plans: what is imaged, how often, when, to where and how; saved with every version they had, and exchanged as files. */
package app.granary.server.plan;
