/** The application: REST, security, database, events. One package per term of the trade. */
package app.granary.server;
