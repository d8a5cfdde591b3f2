package app.granary.engine.line;

import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.engine.host.Host;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Rest;
import app.granary.engine.progress.Watch;
import com.fasterxml.jackson.databind.JavaType;
import com.fasterxml.jackson.databind.JsonNode;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.lang.reflect.InvocationTargetException;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Random;
import java.util.TreeMap;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Consumer;

/**
 * The side that has the devices: does what it is asked to, once for each key, and keeps each end until the office has heard it. Work goes
 * on while there is no line. Safe for several threads.
 */
public final class Answering {
    /** More work than a computer does at once is no office's. */
    private static final int MOST = 64;
    private static final long HELD_MILLIS = 100;
    private static final long TELL_NANOS = 200_000_000L;

    private final Ports ports;
    private final String name;
    private final Map<UUID, Work> works = new ConcurrentHashMap<>();
    private volatile Consumer<Message> line = message -> {};

    /** Whose calls can be asked for. */
    interface Ports {
        /** Empty when there is none of that name here. */
        Optional<Object> named(String port, String of) throws IOException;
    }

    /** @param name of this computer, for sentences */
    public Answering(Host host, String name) {
        this(ports(host), name);
    }

    private static Ports ports(Host host) {
        Optional<Loans> loans = host.lender().map(Loans::new);
        return (port, of) -> switch (port) {
            case Calls.LENDING -> loans.map(Object.class::cast);
            case Calls.FILES -> loans.isPresent() ? Optional.of(loans.get().files(of)) : Optional.empty();
            default -> port(host, port, of);
        };
    }

    Answering(Ports ports, String name) {
        this.ports = ports;
        this.name = name;
    }

    /** A line was taken up: what was told meanwhile and not heard is told by it. */
    public void over(Consumer<Message> open) {
        line = open;
        works.values().forEach(work -> {
            if (work.held) {
                open.accept(new Message.Held(work.key, true));
            }
            work.end.ifPresent(open);
        });
    }

    /** What is under way now, and where each stands, by its key. */
    public Map<UUID, Progress> underWay() {
        Map<UUID, Progress> out = new TreeMap<>();
        works.values().stream().filter(work -> work.end.isEmpty())
            .forEach(work -> work.progress.ifPresent(now -> out.put(work.key, now)));
        return out;
    }

    /** Whether anything under way is held, here or by the office. */
    public boolean held() {
        return works.values().stream().anyMatch(work -> work.held && work.end.isEmpty());
    }

    /** Whatever is under way waits at its next step, or goes on, and the office is told; what begins meanwhile does not wait. */
    public void holdAll(boolean held) {
        works.values().stream().filter(work -> work.end.isEmpty()).forEach(work -> {
            work.held = held;
            line.accept(new Message.Held(work.key, held));
        });
    }

    /** Whatever is under way stops at its next step. */
    public void stopAll() {
        works.values().forEach(work -> work.stop = true);
    }

    /** Whether it does, or has yet to tell of, anything. */
    public boolean idle() {
        return works.isEmpty();
    }

    /** One message of the office; those that are not its to send are passed over. */
    public void hear(Message message) {
        if (message instanceof Message.Ask ask) {
            ask(ask);
        } else if (message instanceof Message.Again again) {
            again(again.key());
        } else if (message instanceof Message.Stop stop) {
            Optional.ofNullable(works.get(stop.key())).ifPresent(work -> work.stop = true);
        } else if (message instanceof Message.Hold hold) {
            Optional.ofNullable(works.get(hold.key())).ifPresent(work -> work.held = hold.held());
        } else if (message instanceof Message.Heard heard) {
            works.computeIfPresent(heard.key(), (key, work) -> work.end.isPresent() ? null : work);
        }
    }

    private void ask(Message.Ask ask) {
        Work fresh = new Work(ask.key());
        Work known = works.putIfAbsent(ask.key(), fresh);
        if (known != null) {
            known.end.ifPresent(line);
            return;
        }
        if (works.values().stream().filter(work -> work.end.isEmpty()).count() > MOST) {
            fresh.ends(new Message.Refused(ask.key(), Fault.of(Fault.Kind.BAD_CHOICE, name, name + " is busy with " + MOST
                + " tasks. Wait until some have ended.")));
            return;
        }
        Thread thread = new Thread(() -> fresh.ends(answer(ask, fresh)), "granary-" + ask.call());
        thread.setDaemon(true);
        thread.start();
    }

    private void again(UUID key) {
        Work known = works.get(key);
        if (known == null) {
            line.accept(new Message.Refused(key, Fault.of(Fault.Kind.NOT_RECOGNISED, name, name + " has lost this task: it was switched "
                + "off meanwhile, or its agent was ended. Start it again.")));
            return;
        }
        known.progress.ifPresent(last -> line.accept(new Message.Advanced(key, last)));
        known.end.ifPresent(line);
    }

    /** Of ends that nobody asks for: an office that was started anew asks for those it still wants. */
    private void forgetOldest() {
        List<Work> ended = works.values().stream().filter(work -> work.end.isPresent())
            .sorted(Comparator.comparing(work -> work.endedNanos))
            .toList();
        ended.stream().limit(Math.max(0, ended.size() - MOST)).forEach(work -> works.remove(work.key));
    }

    private Message answer(Message.Ask ask, Work work) {
        try {
            Calls.Call call = Calls.of(ask.port(), ask.call()).orElseThrow(() -> unknown(ask.call()));
            Object port = ports.named(ask.port(), ask.of()).orElseThrow(() -> unknown(ask.port()));
            Object result = call.method().invoke(port, arguments(call, ask.arguments(), work));
            return new Message.Done(ask.key(), call.method().getReturnType() == void.class ? LineJson.nothing()
                : LineJson.tree(result, call.result()));
        } catch (InvocationTargetException failed) {
            return ended(ask, failed.getCause());
        } catch (IOException | ReflectiveOperationException | RuntimeException | LinkageError failed) {
            return new Message.Refused(ask.key(), fault(failed, name));
        }
    }

    private Message ended(Message.Ask ask, Throwable failed) {
        return ask.port().equals(Calls.FILES) ? Lent.ended(ask.key(), failed, name) : new Message.Refused(ask.key(), fault(failed, name));
    }

    static Fault fault(Throwable failed, String name) {
        return failed instanceof FaultException known ? known.fault()
            : new Fault(Fault.Kind.DEVICE_FAILED, name, OptionalLong.empty(), "", "", "On " + name + " something failed: "
                + (failed.getMessage() == null ? failed.getClass().getSimpleName() : failed.getMessage()));
    }

    private static Optional<Object> port(Host host, String name, String of) throws IOException {
        return switch (name) {
            case "devices" -> Optional.of(host.devices());
            case "store" -> Optional.of(host.store());
            case Calls.SHELF -> Optional.of(host.store().shelf(of));
            case "imaging" -> Optional.of(host.imaging());
            case "overwriting" -> Optional.of(host.overwriting());
            case "insides" -> Optional.of(host.insides());
            case "host" -> Optional.of(host);
            default -> Optional.empty();
        };
    }

    private FaultException unknown(String call) {
        return Fault.of(Fault.Kind.UNSUPPORTED, name, "The agent on " + name + " knows no " + call
            + ". Is it the agent this office offers?").asException();
    }

    private static Object[] arguments(Calls.Call call, List<JsonNode> told, Work work) throws IOException {
        List<JavaType> types = call.types();
        if (told.size() != types.size()) {
            throw new IOException(call.name() + " came with " + told.size() + " arguments");
        }
        Object[] out = new Object[types.size()];
        for (int i = 0; i < out.length; i++) {
            Class<?> wanted = call.method().getParameterTypes()[i];
            if (wanted == Watch.class) {
                out[i] = work;
            } else {
                Object value = LineJson.value(told.get(i), types.get(i));
                out[i] = wanted == java.io.InputStream.class ? new ByteArrayInputStream((byte[]) value)
                    : wanted == Random.class ? new Random((Long) value) : value;
            }
        }
        return out;
    }

    /** One piece of work: watched from the other end of the line. */
    private final class Work implements Watch {
        private final UUID key;
        private volatile boolean stop;
        private volatile boolean held;
        private volatile Optional<Progress> progress = Optional.empty();
        private volatile Optional<Message> end = Optional.empty();
        private volatile long endedNanos;
        private volatile long toldNanos = System.nanoTime() - TELL_NANOS;

        Work(UUID key) {
            this.key = key;
        }

        void ends(Message message) {
            progress.ifPresent(last -> line.accept(new Message.Advanced(key, last)));
            end = Optional.of(message);
            endedNanos = System.nanoTime();
            line.accept(message);
            forgetOldest();
        }

        @Override
        public void advanced(Progress now) {
            progress = Optional.of(now);
            if (System.nanoTime() - toldNanos >= TELL_NANOS) {
                toldNanos = System.nanoTime();
                line.accept(new Message.Advanced(key, now));
            }
        }

        @Override
        public boolean stopRequested() {
            return stop;
        }

        @Override
        public void requireGoingOn(String what) throws IOException {
            while (held && !stop) {
                Rest.millis(HELD_MILLIS);
            }
            Watch.super.requireGoingOn(what);
        }
    }
}
