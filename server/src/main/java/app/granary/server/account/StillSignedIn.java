package app.granary.server.account;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.io.IOException;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.authority.SimpleGrantedAuthority;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * What an account may do is asked of the database at each request, whatever its path: a session only says who signed in and when. One whose
 * account was closed, changed or signed out everywhere since, or that began more than a day ago, ends.
 */
final class StillSignedIn extends OncePerRequestFilter {
    static final String SINCE = "granary.signed-in-at";
    private final Accounts accounts;

    StillSignedIn(Accounts accounts) {
        this.accounts = accounts;
    }

    static Instant since(HttpSession session) {
        return session != null && session.getAttribute(SINCE) instanceof Instant since ? since : Instant.EPOCH;
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
        throws ServletException, IOException {
        Authentication who = SecurityContextHolder.getContext().getAuthentication();
        if (who != null) {
            HttpSession session = request.getSession(false);
            Optional<Role> role = accounts.signedIn(who.getName(), since(session));
            if (role.isEmpty() && session != null) {
                session.invalidate();
            }
            SecurityContext now = SecurityContextHolder.createEmptyContext();
            role.ifPresent(is -> now.setAuthentication(UsernamePasswordAuthenticationToken.authenticated(who.getPrincipal(), null,
                List.of(new SimpleGrantedAuthority("ROLE_" + is.name())))));
            SecurityContextHolder.setContext(now);
        }
        chain.doFilter(request, response);
    }

    /** A stream that is sent on from another thread is asked about as it goes on. */
    @Override
    protected boolean shouldNotFilterAsyncDispatch() {
        return true;
    }
}
