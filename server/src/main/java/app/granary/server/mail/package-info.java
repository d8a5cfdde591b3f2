/** Mail the office gets, sent over a mail server where one is set up, and always kept to be read here. */
package app.granary.server.mail;
