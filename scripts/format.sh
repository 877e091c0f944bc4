# One form of the code: CSharpier for C#, Prettier for the rest.

CSHARP_FOLDERS="src tests bench"
SCRIPT_FOLDERS="web tests/e2e tests/mutants tests/*.mjs bench/node demo scripts"

run_format() {
  need_form_tools
  # shellcheck disable=SC2086
  dotnet csharpier format $CSHARP_FOLDERS && web/node_modules/.bin/prettier --log-level warn --write $SCRIPT_FOLDERS
}

# Fails while a file has another form.
check_form() {
  need_form_tools
  # shellcheck disable=SC2086
  step form-csharp "Some C# is not in the form that “./sexton format” gives it." dotnet csharpier check $CSHARP_FOLDERS
  # shellcheck disable=SC2086
  step form-scripts "Some scripts or pages are not in the form that “./sexton format” gives them." \
    web/node_modules/.bin/prettier --log-level warn --check $SCRIPT_FOLDERS
}

need_form_tools() {
  need_dotnet
  need_web_tools
  install_node_packages web
  step tools "The tools of .config/dotnet-tools.json could not be restored. Is there a network?" dotnet tool restore
}
