using System.Security.Cryptography;
using System.Text;
using Xunit;
using Xunit.Sdk;
using Xunit.v3;

[assembly: TestMethodOrderer(typeof(Kingcup.Testing.MethodsInOrder))]

namespace Kingcup.Testing;

/// <summary>
/// The tests of a class in an order that does not depend on where the code lies, so that what one leaves to the next is the same on every
/// machine; KINGCUP_TEST_ORDER, any word, gives another.
/// </summary>
public sealed class MethodsInOrder : ITestMethodOrderer
{
    public IReadOnlyCollection<T?> OrderTestMethods<T>(IReadOnlyCollection<T?> testMethods)
        where T : ITestMethod
    {
        string word = Environment.GetEnvironmentVariable("KINGCUP_TEST_ORDER") ?? "";
        return [.. testMethods.OrderBy(method => Convert.ToHexString(SHA256.HashData(Encoding.UTF8.GetBytes(word + method?.MethodName))))];
    }
}
