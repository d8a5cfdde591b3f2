package app.granary.standins;

import app.granary.agent.JoinedComputer;
import app.granary.core.agent.JoinCode;
import app.granary.core.machine.Network;
import app.granary.engine.host.Links;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;

/**
 * One laptop of the made-up office as a program of its own, which joins by the agent's own code. It hears on its standard input
 * {@code join URL CODE}, once, and {@code on ID} and {@code off ID} for what goes wrong with it; when that ends, so does it.
 */
public final class LaptopProcess {
    /** It was switched off. */
    static final int OFF = 3;
    private static final long ANSWER_GOES_OUT_MILLIS = 500;

    private LaptopProcess() {
    }

    /** How it comes in. */
    private record Way(URI address, JoinCode code) {
    }

    /** @param arguments its name, the office's folder, its own, the pace, and by how many milliseconds its clock is moved */
    public static void main(String[] arguments) throws IOException, InterruptedException {
        String name = arguments[0];
        double pace = Double.parseDouble(arguments[3]);
        Clock clock = Clock.offset(Clock.systemDefaultZone(), Duration.ofMillis(Long.parseLong(arguments[4])));
        CompletableFuture<Way> way = new CompletableFuture<>();
        CompletableFuture<Switchboard> board = new CompletableFuture<>();
        Thread hearing = new Thread(() -> hear(way, board), "granary-laptop");
        hearing.setDaemon(true);
        hearing.start();
        long rate = (long) (Links.GIGABIT * MarrowbySurveyOffice.PACE * pace);
        Way in = way.join();
        new JoinedComputer(in.address, in.code, Optional.of(new Network(rate, rate)), clock).stay(lent -> {
            SimulatedLaptop laptop = new SimulatedLaptop(name, Path.of(arguments[1]), Path.of(arguments[2]), clock, pace, lent,
                LaptopProcess::switchOff);
            board.complete(laptop.switchboard());
            return laptop;
        }, sentence -> System.out.println(Instant.now(clock) + " " + sentence));
        System.exit(0);
    }

    /** After the office was told that it will be. */
    private static void switchOff() {
        CompletableFuture.delayedExecutor(ANSWER_GOES_OUT_MILLIS, java.util.concurrent.TimeUnit.MILLISECONDS)
            .execute(() -> Runtime.getRuntime().halt(OFF));
    }

    private static void hear(CompletableFuture<Way> way, CompletableFuture<Switchboard> board) {
        try (BufferedReader in = new BufferedReader(new InputStreamReader(System.in, StandardCharsets.UTF_8))) {
            for (String line = in.readLine(); line != null; line = in.readLine()) {
                String[] words = line.split(" ");
                if (words[0].equals("join")) {
                    way.complete(new Way(URI.create(words[1]), JoinCode.parse(words[2]).orElseThrow()));
                } else {
                    board.join().turn(words[1], words[0].equals("on"));
                }
            }
        } catch (IOException gone) {
            // whoever started it has gone, and so does it
        }
        Runtime.getRuntime().halt(0);
    }
}
