/**
 * Files that hold keys, passwords and the like, by the names that the programs give them whose files they are; never
 * published, and never taken along.
 */

/** Whole names, by program. Names that start with a dot are hidden in any case; they are here to be called what they are. */
// biome-ignore format: one line a kind of program
const NAMES: readonly string[] = [
  // Keys of OpenSSH and others.
  'id_rsa', 'id_dsa', 'id_ecdsa', 'id_ecdsa_sk', 'id_ed25519', 'id_ed25519_sk', 'identity', 'authorized_keys', 'known_hosts',
  'secring.gpg', 'secring.pgp', 'private-keys-v1.d',
  // Passwords of clients.
  '.netrc', '_netrc', '.pgpass', 'pgpass.conf', '.my.cnf', '.mylogin.cnf', '.git-credentials', '.ftpconfig', '.esmtprc',
  '.s3cfg', '.boto', '.fetchmailrc', '.msmtprc', '.muttrc', '.remote-sync.json', 'sftp-config.json', 'sftp.json',
  'recentservers.xml', 'sitemanager.xml', 'filezilla.xml', 'winscp.ini', 'ws_ftp.ini', 'deployment-config.json',
  // Packages' registries.
  '.npmrc', '.yarnrc', '.yarnrc.yml', '.pypirc', 'pip.conf', 'auth.json', '.composer-auth.json', 'credentials.toml',
  'nuget.config', '.gem-credentials', '.dockercfg', '.dockerconfigjson', 'kubeconfig',
  // Servers and what runs on them.
  '.env', '.envrc', 'htpasswd', '.htpasswd', '.htdigest', 'passwd', 'shadow', 'wp-config.php', 'localsettings.php',
  'configuration.php', 'settings.local.php', 'database.yml', 'master.key', 'credentials.yml.enc', 'secrets.yml',
  'secret_token.rb', 'local_settings.py', 'parameters.yml', 'application-secrets.json', 'appsettings.production.json',
  'terraform.tfstate', 'terraform.tfvars', 'terraform.rc', '.terraformrc', '.vault-token', 'vault-password.txt',
  // What shells and databases remember.
  '.bash_history', '.zsh_history', '.sh_history', '.history', '.mysql_history', '.psql_history', '.sqlite_history',
  '.rediscli_history', '.python_history', '.node_repl_history', '.irb_history', '.lesshst', '.viminfo',
  // Browsers, wallets and password safes.
  'key3.db', 'key4.db', 'logins.json', 'signons.sqlite', 'cookies.sqlite', 'login data', 'wallet.dat', 'keychain-db',
];

/** Folders of programs that keep keys. */
// biome-ignore format: one line
const FOLDERS: readonly string[] = [
  '.ssh', '.gnupg', '.aws', '.azure', '.gcloud', '.docker', '.kube', '.terraform', '.password-store', '.chef', '.oci',
];

const EXTENSIONS =
  /\.(?:pem|key|ppk|p8|p12|pfx|pkcs12|jks|jceks|keystore|bcfks|kdb|kdbx|psafe3|agilekeychain|keychain|ovpn|asc\.key|gpg\.key|mobileprovision|tfstate|tfvars|rdp|cscfg|pwd|htpasswd)$/;
/** Files that hold words rather than being shown: a page about passwords is none. */
const WORDS = '(?:\\.(?:json|ya?ml|toml|ini|cfg|conf|txt|csv|tsv|xml|env|xlsx?|docx?|odt|ods|db))?';
const PATTERNS = new RegExp(
  `^(?:\\.env(?:[.-].*)?|env\\.(?:local|prod|production)|.*_(?:rsa|dsa|ecdsa|ed25519)|(?:.*[._-])?(?:credentials?|passwords?|secrets?)${WORDS}|client_secret.*\\.json|.*service[-_]?account.*\\.json|.*firebase-adminsdk.*\\.json|.*\\.tfstate\\..*)$`,
);
/** What people and editors put behind the name of a file they keep beside. */
const COPY = /(?:\.(?:bak|backup|old|orig|save|saved|copy|sav|tmp|swp|[0-9])|~|-(?:old|backup|copy))$/;

const names = new Set(NAMES);
const folders = new Set(FOLDERS);

/** True for a file, or a folder whose path ends in `/`, that may hold secrets, or is a copy of such a one. */
export function mayHoldSecrets(path: string): boolean {
  const steps = path.toLowerCase().split('/');
  const name = steps.pop() as string;
  if (steps.some((step) => folders.has(step))) return true;
  let plain = name;
  for (let before = ''; plain !== before; ) {
    before = plain;
    plain = plain.replace(COPY, '');
  }
  return [name, plain].some((one) => names.has(one) || EXTENSIONS.test(one) || PATTERNS.test(one));
}
