namespace Pritchel.Web.Entrance;

/// <summary>Which requests may change something.</summary>
internal static class Changes
{
    /// <summary>Whether a method may.</summary>
    public static bool Are(string method) =>
        !(HttpMethods.IsGet(method) || HttpMethods.IsHead(method) || HttpMethods.IsOptions(method));
}
