package app.granary.server.home;

/** Something else the program can do than serve, found as a service. */
public interface StartCommand {
    boolean is(String[] args);

    void run(String[] args);
}
