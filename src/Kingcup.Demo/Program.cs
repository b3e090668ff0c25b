namespace Kingcup.Demo; internal static class P { private static void Main() { } }
