using Kingcup.Core.Business;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Business;

/// <summary>Which sites may show the booking page, as browsers compare them.</summary>
public sealed class FrameSiteTests
{
    [Theory]
    [InlineData("https://www.example.org", "https://www.example.org")]
    [InlineData(" WWW.Example.org/book?x=1 ", "https://www.example.org")]
    [InlineData("https://example.org:8443/a", "https://example.org:8443")]
    [InlineData("https://example.org:443", "https://example.org")]
    [InlineData("https://bäder.example", "https://xn--bder-loa.example")]
    [InlineData("http://127.0.0.1:8080/plain.html", "http://127.0.0.1:8080")]
    [InlineData("http://localhost:8080", "http://localhost:8080")]
    public void It_is_scheme_host_and_port(string typed, string site) => FrameSite.Of(typed).ShouldBe(site);

    [Theory]
    [InlineData(null)]
    [InlineData("")]
    [InlineData("example")]
    [InlineData("https://")]
    [InlineData("http://example.org")]
    [InlineData("ftp://example.org")]
    [InlineData("javascript://example.org")]
    [InlineData("https://*.example.org")]
    [InlineData("https://user@example.org")]
    [InlineData("https://example.org; script-src *")]
    [InlineData("https://[::1]")]
    [InlineData("'self'")]
    public void What_is_no_site_or_not_safe_is_none(string? typed) => FrameSite.Of(typed).ShouldBeNull();
}
