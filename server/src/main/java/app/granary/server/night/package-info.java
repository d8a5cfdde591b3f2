/** What runs on a night: the due plans put in order, what a person chose about them, what is to be done before going home. */
package app.granary.server.night;
