using System.Runtime.CompilerServices;
using Kingcup.Testing;

namespace Kingcup.Browser.Tests;

internal static class Screens
{
    /// <summary>Every server of these tests shows the screens as they were built last.</summary>
    [ModuleInitializer]
    internal static void Show() => ServerProcess.Screens = "src/web/dist";
}
