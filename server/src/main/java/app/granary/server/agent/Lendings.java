package app.granary.server.agent;

import app.granary.engine.host.Lender;
import app.granary.engine.hosts.Member;
import app.granary.engine.hosts.Serving;
import app.granary.engine.line.Lent;
import java.io.IOException;
import java.security.SecureRandom;
import java.util.HexFormat;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Component;

/** What is lent to computers that joined, for as long as their work with it takes. Each reaches only what is lent to it. */
@Component
class Lendings implements Serving {
    private static final int TOKEN_BYTES = 16;

    private final Map<String, Entry> lent = new ConcurrentHashMap<>();
    private final SecureRandom random = new SecureRandom();

    private record Entry(String to, Lent lent) {
    }

    @Override
    public Served serve(Member to, Lender.Loan loan) {
        byte[] bytes = new byte[TOKEN_BYTES];
        random.nextBytes(bytes);
        String token = HexFormat.of().formatHex(bytes);
        Lent lending = new Lent(loan, "the office");
        lent.put(token, new Entry(to.id(), lending));
        return new Served() {
            @Override
            public String destinationId() {
                return "remote/" + token + "/" + loan.images();
            }

            @Override
            public void close() throws IOException {
                lent.remove(token);
                lending.close();
            }
        };
    }

    /** Empty when nothing is lent to that computer by that name. */
    Optional<Lent> of(String token, UUID agent) {
        return Optional.ofNullable(lent.get(token)).filter(each -> each.to.equals(agent.toString())).map(Entry::lent);
    }

    /** Nothing more is lent to it. */
    void takeBack(UUID agent) throws IOException {
        for (Map.Entry<String, Entry> each : lent.entrySet()) {
            if (each.getValue().to.equals(agent.toString())) {
                lent.remove(each.getKey());
                each.getValue().lent.close();
            }
        }
    }
}
