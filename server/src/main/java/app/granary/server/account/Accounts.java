package app.granary.server.account;

import app.granary.core.fault.Fault;
import app.granary.server.journal.Journal;
import app.granary.server.office.GranarySettings;
import java.io.IOException;
import java.time.Clock;
import org.springframework.boot.context.event.ApplicationStartedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.security.core.userdetails.User;
import org.springframework.security.core.userdetails.UserDetails;
import org.springframework.security.core.userdetails.UserDetailsService;
import org.springframework.security.core.userdetails.UsernameNotFoundException;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The accounts, for sign-in and for the first visit. */
@Service
public class Accounts implements UserDetailsService {
    public static final String DEMO_NAME = "technician";
    public static final String DEMO_PASSWORD = "survey-the-tarn";
    static final String DEMO_VIEWER = "manager";
    private static final int SHORTEST_PASSWORD = 10;

    private final AccountRepository repository;
    private final PasswordEncoder encoder;
    private final Journal journal;
    private final GranarySettings settings;
    private final Clock clock;

    Accounts(AccountRepository repository, PasswordEncoder encoder, Journal journal, GranarySettings settings, Clock clock) {
        this.repository = repository;
        this.encoder = encoder;
        this.journal = journal;
        this.settings = settings;
        this.clock = clock;
    }

    /** The demo's two accounts, whose password is printed: they guard nothing but made-up data. */
    @EventListener(ApplicationStartedEvent.class)
    @Transactional
    void demoAccounts() {
        if (settings.demo() && none()) {
            repository.save(new Account(DEMO_NAME, encoder.encode(DEMO_PASSWORD), Role.TECHNICIAN, clock.instant()));
            repository.save(new Account(DEMO_VIEWER, encoder.encode(DEMO_PASSWORD), Role.VIEWER, clock.instant()));
        }
    }

    /** Whether nobody has an account yet, so that this is the first visit. */
    public boolean none() {
        return repository.count() == 0;
    }

    /**
     * Creates the technician's account on the first visit.
     *
     * @throws app.granary.core.fault.FaultException when there is an account already, or name or password will not do
     */
    @Transactional
    public synchronized void createFirst(String name, String password) throws IOException {
        if (!none()) {
            throw refuse("An account exists already. Sign in with it.");
        }
        if (!name.matches("[\\p{L}\\p{N}][\\p{L}\\p{N}._-]{1,59}")) {
            throw refuse("Choose a name of 2 to 60 letters, digits, dots or hyphens.");
        }
        if (password.length() < SHORTEST_PASSWORD || password.getBytes(java.nio.charset.StandardCharsets.UTF_8).length > 72) {
            throw refuse("Choose a password of " + SHORTEST_PASSWORD + " to 72 characters; a few words will do.");
        }
        repository.save(new Account(name, encoder.encode(password), Role.TECHNICIAN, clock.instant()));
        journal.add(name, "account created", name, Journal.Result.DONE, "The first account, technician " + name + ", was created.");
    }

    private static IOException refuse(String sentence) {
        return Fault.of(Fault.Kind.BAD_CHOICE, "", sentence).asException();
    }

    @Override
    public UserDetails loadUserByUsername(String name) {
        Account account = repository.findById(name).orElseThrow(() -> new UsernameNotFoundException(name));
        return User.withUsername(account.name()).password(account.passwordHash()).roles(account.role().name()).build();
    }
}
