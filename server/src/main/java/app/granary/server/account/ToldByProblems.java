package app.granary.server.account;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.springframework.web.filter.OncePerRequestFilter;
import org.springframework.web.servlet.HandlerExceptionResolver;

/** What fails before any controller is reached - the database is asked who it is, and has no room - is told as what fails in one. */
final class ToldByProblems extends OncePerRequestFilter {
    private final HandlerExceptionResolver resolver;

    ToldByProblems(HandlerExceptionResolver resolver) {
        this.resolver = resolver;
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
        throws ServletException, IOException {
        try {
            chain.doFilter(request, response);
        } catch (RuntimeException failed) {
            if (response.isCommitted() || resolver.resolveException(request, response, null, failed) == null) {
                throw failed;
            }
        }
    }
}
