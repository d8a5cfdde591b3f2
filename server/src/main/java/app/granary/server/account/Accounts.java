package app.granary.server.account;

import app.granary.core.fault.Fault;
import app.granary.engine.bag.Digests;
import app.granary.server.journal.Journal;
import app.granary.server.home.GranarySettings;
import jakarta.servlet.http.HttpSession;
import java.io.IOException;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Base64;
import java.util.Comparator;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
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
    private static final Duration LONGEST_SESSION = Duration.ofDays(1);

    private final AccountRepository repository;
    private final InvitationRepository invitations;
    private final SecureRandom random = new SecureRandom();
    private final PasswordEncoder encoder;
    private final FirstWord firstWord;
    private final Journal journal;
    private final GranarySettings settings;
    private final Clock clock;

    Accounts(AccountRepository repository, InvitationRepository invitations, PasswordEncoder encoder, FirstWord firstWord, Journal journal,
        GranarySettings settings, Clock clock) {
        this.repository = repository;
        this.invitations = invitations;
        this.encoder = encoder;
        this.firstWord = firstWord;
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
     * @param word the one that was printed at the start
     * @throws app.granary.core.fault.FaultException when there is an account already, or word, name or password will not do
     */
    @Transactional
    public synchronized void createFirst(String name, String password, String word) throws IOException {
        if (!none()) {
            throw refuse("An account exists already. Sign in with it.");
        }
        if (!firstWord.is(word)) {
            throw refuse(
                "The first account is made by whoever started Granary: open the address it printed then, with its word at the end, or "
                    + "type that word.");
        }
        requireName(name);
        requirePassword(name, password);
        repository.save(new Account(name, encoder.encode(password), Role.TECHNICIAN, clock.instant()));
        journal.add(name, "account created", name, Journal.Result.DONE, "The first account, technician " + name + ", was created.");
    }

    private static void requireName(String name) throws IOException {
        if (!Names.fit(name)) {
            throw refuse("Choose a name of 2 to 60 letters, digits, dots or hyphens, other than Granary's own.");
        }
    }

    private static void requirePassword(String name, String password) throws IOException {
        Optional<String> problem = Passwords.problem(name, password);
        if (problem.isPresent()) {
            throw refuse(problem.get());
        }
    }

    List<Account> all() {
        return repository.findAll().stream().sorted(Comparator.comparing(Account::name, String.CASE_INSENSITIVE_ORDER)).toList();
    }

    List<Invitation> openInvitations() {
        return invitations.findAll().stream().filter(each -> each.stands(clock.instant())).sorted(Comparator.comparing(Invitation::madeAt))
            .toList();
    }

    /** @return the secret of the link; it is not kept and cannot be shown again */
    @Transactional
    public synchronized String invite(String name, Role role, String by) throws IOException {
        requireName(name);
        if (all().stream().anyMatch(each -> Names.alike(each.name(), name))
            || openInvitations().stream().anyMatch(each -> Names.alike(each.name(), name))) {
            throw refuse(name + ", or a name that looks like it, has an account or an invitation already. Choose another name.");
        }
        byte[] secret = new byte[24];
        random.nextBytes(secret);
        String token = Base64.getUrlEncoder().withoutPadding().encodeToString(secret);
        invitations.save(new Invitation(digest(token), name, role, clock.instant(), by));
        journal.add(by, "invite", name, Journal.Result.DONE,
            by + " invited " + name + " as " + role.word() + ". The invitation stands for " + Invitation.STANDS.toDays() + " days.");
        return token;
    }

    Optional<Invitation> invitation(String token) {
        return invitations.findById(digest(token)).filter(each -> each.stands(clock.instant()));
    }

    /** @throws app.granary.core.fault.FaultException when the invitation does not stand any more, or the password will not do */
    @Transactional
    public synchronized String accept(String token, String password) throws IOException {
        Invitation invitation = invitation(token).orElseThrow(
            () -> refuse("This invitation was used, or is older than " + Invitation.STANDS.toDays() + " days. Ask for a new one."));
        requirePassword(invitation.name(), password);
        invitation.use(clock.instant());
        invitations.save(invitation);
        repository.save(new Account(invitation.name(), encoder.encode(password), invitation.role(), clock.instant()));
        journal.add(invitation.name(), "account created", invitation.name(), Journal.Result.DONE,
            invitation.name() + " took the invitation of " + invitation.madeBy() + " and is a " + invitation.role().word() + " now.");
        return invitation.name();
    }

    /** The others who use this account are signed out. */
    @Transactional
    public void changePassword(String name, String old, String password) throws IOException {
        Account account = repository.findById(name).orElseThrow(() -> refuse("This account is not there any more."));
        if (!encoder.matches(old, account.passwordHash())) {
            throw refuse("The password so far is not that. Nothing was changed.");
        }
        requirePassword(name, password);
        account.password(encoder.encode(password));
        account.signOutBefore(clock.instant());
        repository.save(account);
        journal.add(name, "password changed", name, Journal.Result.DONE, name + " changed the password; every other sign-in ended.");
    }

    @Transactional
    public void signOutEverywhere(String name, String by) throws IOException {
        Account account = repository.findById(name).orElseThrow(() -> refuse("This account is not there any more."));
        account.signOutBefore(clock.instant());
        repository.save(account);
        journal.add(by, "signed out", name, Journal.Result.DONE, name + " was signed out everywhere.");
    }

    /** Changes what an account may do, or closes it. The last technician stays one. */
    @Transactional
    public synchronized void change(String name, Role role, boolean closed, String by) throws IOException {
        Account account = repository.findById(name).orElseThrow(() -> refuse("This account is not there any more."));
        boolean otherTechnician = all().stream()
            .anyMatch(other -> other.role() == Role.TECHNICIAN && other.closedAt() == null && !other.name().equals(name));
        if (!otherTechnician && (closed || role != Role.TECHNICIAN) && account.role() == Role.TECHNICIAN) {
            throw refuse(name + " is the only technician. Make another account one first.");
        }
        account.become(role);
        account.close(closed ? clock.instant() : null);
        account.signOutBefore(clock.instant());
        repository.save(account);
        journal.add(by, "change account", name, Journal.Result.DONE,
            name + (closed ? " may not sign in any more." : " is a " + role.word() + " now."));
    }

    /** What someone who signed in at a moment may do now; empty when that sign-in has ended. */
    public Optional<Role> signedIn(String name, Instant since) {
        boolean tooOld = !since.equals(Instant.EPOCH) && since.plus(LONGEST_SESSION).isBefore(clock.instant());
        return tooOld ? Optional.empty() : repository.findById(name)
            .filter(account -> account.closedAt() == null && (account.validFrom() == null || !since.isBefore(account.validFrom())))
            .map(Account::role);
    }

    /** When a session's sign-in was; {@link Instant#EPOCH} for one without. */
    public static Instant since(HttpSession session) {
        return StillSignedIn.since(session);
    }

    /** To be printed at the start; empty when there is an account already. */
    public Optional<String> firstWord() {
        return none() ? Optional.of(firstWord.word()) : Optional.empty();
    }

    private static String digest(String token) {
        return Digests.of(token.getBytes(java.nio.charset.StandardCharsets.UTF_8));
    }

    private static app.granary.core.fault.FaultException refuse(String sentence) {
        return Fault.of(Fault.Kind.BAD_CHOICE, "", sentence).asException();
    }

    @Override
    public UserDetails loadUserByUsername(String name) {
        Account account = repository.findById(name).orElseThrow(() -> new UsernameNotFoundException(name));
        return User.withUsername(account.name()).password(account.passwordHash()).roles(account.role().name())
            .disabled(account.closedAt() != null).build();
    }
}
